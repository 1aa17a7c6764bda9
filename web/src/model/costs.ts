import type { components } from "./schema.gen";

type S = components["schemas"];
export type Cost = S["Cost"];
export type CostLine = S["CostLine"];
export type StepTime = S["StepTime"];

/** Minutes as people say them: 2 h 05, 40 min. */
export function sayMinutes(minutes: number): string {
  const n = Math.round(minutes);
  if (n < 60) return `${n} min`;
  return `${Math.floor(n / 60)} h ${String(n % 60).padStart(2, "0")}`;
}

/** How it stands, aloud. */
export function costWords(c: Pick<Cost, "lines" | "over">): string {
  const sum = c.lines.find((l) => l.id === "sum");
  if (!sum) return "";
  if (c.over > 0) return `${money(c.over)} over what the customer said yes to: ask before more is done.`;
  if (sum.estimated == null)
    return `${money(sum.so_far)} so far; no way was decided that the sheet has figures of.`;
  const left = sum.estimated - sum.so_far;
  return left >= 0
    ? `${money(sum.so_far)} of ${money(sum.estimated)}; ${money(left)} are left.`
    : `${money(sum.so_far)}: ${money(-left)} more than estimated.`;
}

export const money = (n: number) => (Number.isInteger(n) ? String(n) : n.toFixed(2));

/** The steps that took time or should, those far over their plan first. */
export function bySurprise(steps: readonly StepTime[]): StepTime[] {
  const over = (s: StepTime) => (s.planned ? s.minutes - s.planned : 0);
  return steps.toSorted((a, b) => over(b) - over(a));
}
