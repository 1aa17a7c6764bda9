import { asQuantity, withUnit } from "./quantity";
import type { components } from "./schema.gen";

export type Worn = components["schemas"]["Worn"];

export type WornTyped = { what: string; value: string; new: string; limit: string };

/** What was measured of a part as it is kept; undefined while something is missing. Bare figures take the unit of the limit, or mm. */
export function wornOf(typed: WornTyped): Worn | undefined {
  const unit =
    [typed.limit, typed.new, typed.value].map((x) => asQuantity(point(x))?.unit).find(Boolean) ?? "mm";
  const said = (text: string) => asQuantity(point(withUnit(text, unit)));
  const [value, fresh, limit] = [said(typed.value), said(typed.new), said(typed.limit)];
  if (typed.what.trim() === "" || !value || !fresh || !limit) return undefined;
  return { what: typed.what.trim(), value, new: fresh, limit };
}

const point = (text: string) => text.replace(",", ".").replace("−", "-");

/** The share of a part's wear that is left; undefined where its figures are in different units, which the server works out. */
export function lifeLeft(w: Worn): number | undefined {
  if (w.value.unit !== w.limit.unit || w.new.unit !== w.limit.unit || w.new.value === w.limit.value)
    return undefined;
  return (w.value.value - w.limit.value) / (w.new.value - w.limit.value);
}

/** What is left, aloud. */
export function lifeWords(left: number): string {
  if (left < 0) return "beyond its limit";
  if (left === 0) return "at its limit";
  return `${Math.round(100 * left)} % of its life left`;
}
