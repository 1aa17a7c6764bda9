import { type EntryView, liveAt, type StackPart, type StepOf } from "../../model/types";
import type { PropsOf } from "../props";

export type Work = StepOf<"stack">["work"];

const acts: Record<Work, "removed" | "verdict" | "fitted"> = {
  remove: "removed",
  inspect: "verdict",
  fit: "fitted",
};

/** The entry that stands for a part in this work. */
export const standing = (entries: EntryView[], work: Work, part: string) => liveAt(entries, acts[work], part);

/** What the strip of one part gets. */
export type PartProps = PropsOf<"stack"> & { part: StackPart; correcting: boolean };
