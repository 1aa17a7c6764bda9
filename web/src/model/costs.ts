import { isWhole } from "./number";
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

let currency = "";

/** The shop's currency by its three letters; money is said with it everywhere. */
export const setCurrency = (letters: string) => {
  currency = letters;
};

/** A sum as it is typed, without its currency. */
export const sum = (n: number | string) => (typeof n === "string" || isWhole(n) ? String(n) : n.toFixed(2));

/** Money as it is said: 1250 EUR, 12.50 EUR; what was just typed as it was typed. */
export const money = (n: number | string) => `${sum(n)} ${currency}`.trim();

/** The steps that took time or should, those far over their plan first. */
export function bySurprise(steps: readonly StepTime[]): StepTime[] {
  const over = (s: StepTime) => (s.planned ? s.minutes - s.planned : 0);
  return steps.toSorted((a, b) => over(b) - over(a));
}
