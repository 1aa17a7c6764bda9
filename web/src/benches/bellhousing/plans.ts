import { say as sayQ, sayClock } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";

export const plansOf = (out: ResultOf<"bellhousing"> | undefined) =>
  out && out.verdict !== "in" ? (out.plans ?? []) : [];

/** Out of limits, the best plan is proposed; undecided, only what was asked for. */
export const pickedOf = (out: ResultOf<"bellhousing"> | undefined, touched: number) =>
  out?.verdict === "out" ? Math.max(0, touched) : touched;

type Dowel = { size: Quantity; clock: number };

/** "7 thou at 8:15 and 7 thou at 7:40", or both at once when they are alike. */
export function planWords(dowels: readonly Dowel[], units: Units): string {
  const words = dowels.map((d) =>
    d.size.value === 0 ? "a plain dowel" : `${sayQ(d.size, units)} at ${sayClock(d.clock)}`,
  );
  return words[0] === words[1] ? `both ${words[0]}` : words.join(" and ");
}
