import { inUnit, paired, say as sayQ } from "../../model/quantity";
import { placeText } from "../../model/place";
import {
  type Draft,
  type EntryView,
  liveAt,
  type Quantity,
  type TorqueView,
  type Units,
  type Verdict,
} from "../../model/types";

/** A group whose torque is known. */
export type Known = TorqueView & Required<Pick<TorqueView, "group" | "plan">>;

/** One bolt in one pass. */
export type Cell = TorqueView["cells"][number];

/** A setting as the wrench at hand shows it. */
export type Shown = (q: Quantity) => Quantity;

export const shownIn =
  (unit: string, units: Units): Shown =>
  (q) => ({ value: inUnit(q, unit, units), unit });

export const itemOf = (c: { pass: number; bolt: number }) => placeText({ pass: c.pass, bolt: c.bolt });

export const live = (entries: EntryView[], item: string) => liveAt(entries, "torqued", item);

export const stateOf = (entries: EntryView[], pass: number, bolt: number): Verdict =>
  live(entries, itemOf({ pass, bolt }))?.verdict ?? "none";

export const placeInWords = (c: Cell | undefined) => c && `bolt ${c.bolt}, pass ${c.pass}`;

/** A setting in the other system. */
export function sayPaired(q: Quantity, units: Units) {
  const other = paired(q, units);
  return other ? sayQ(other, units) : "";
}

/** Every bolt held; a round from before a bolt was turned is done anew. */
export function roundHeld(entries: EntryView[]): Draft {
  const before = liveAt(entries, "outcome", "check-round");
  return {
    act: "outcome",
    item: "check-round",
    outcome: "held",
    ...(before && { supersedes: before.id }),
  };
}
