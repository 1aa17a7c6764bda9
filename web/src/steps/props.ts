import type { Draft, Kind, PlanCopy, StepOf, StepView } from "../model/types";

/** What the screen of a kind gets. */
export type StepProps<V extends StepView = StepView> = {
  rebuild: string;
  view: V;
  plan: PlanCopy;
  /** Writes an entry; its fault shows under the drawing. */
  say: (d: Draft, then?: () => void) => void;
  busy: boolean;
  fault: Error | null;
  /** What was said when it arose. */
  refused: Draft | undefined;
};

export type PropsOf<K extends Kind> = StepProps<StepOf<K>>;
