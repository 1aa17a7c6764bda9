import { type EntryView, type ItemView, liveAt, type StepOf } from "../../model/types";
import type { StepProps } from "../props";

/** What a step of lines gets: a card to check, or a drive to test. */
export type LinesProps = StepProps<StepOf<"check"> | StepOf<"test">>;

/** What one line of it gets. */
export type LineProps = LinesProps & {
  item: ItemView;
  isCurrent: boolean;
  /** Every line that has to be is answered. */
  isRest: boolean;
  /** Where each hazard is told whole. */
  firstAt: Map<string, string>;
  onNear: (outcome: string | undefined) => void;
};

/** What a test shows beyond its lines. */
export const extrasOf = (view: LinesProps["view"]) =>
  view.kind === "test"
    ? view
    : { beside: undefined, diagnosis: undefined, told: undefined, answered: undefined };

/** The answer that stands at a line. */
export const live = (entries: EntryView[] | undefined, item: string) =>
  entries && liveAt(entries, "outcome", item);
