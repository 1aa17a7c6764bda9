import { withUnit } from "./quantity";
import type { components } from "./schema.gen";

export type Worn = components["schemas"]["Worn"];

export type WornTyped = { what: string; value: string; new: string; limit: string };

/**
 * What was measured of a part as it travels; undefined while something is missing. Several readings stand one
 * behind the other: 8.28 8.31. Bare figures take the unit of the limit, or mm.
 */
export function wornOf(typed: WornTyped): components["schemas"]["WornSent"] | undefined {
  const readings = readingsOf(typed.value);
  const all = [typed.limit, typed.new, ...readings];
  if (typed.what.trim() === "" || readings.length === 0 || all.some((x) => x.trim() === "")) return undefined;
  const unit = all.map((x) => /[a-zµ"]+\s*$/i.exec(x)?.[0].trim()).find(Boolean) ?? "mm";
  const said = readings.map((x) => withUnit(x, unit));
  return {
    what: typed.what.trim(),
    ...(said.length > 1 ? { readings: said } : { value: said[0] ?? "" }),
    new: withUnit(typed.new, unit),
    limit: withUnit(typed.limit, unit),
  };
}

const readingsOf = (text: string) =>
  text
    .trim()
    .split(/[;\s]+(?=[-+−]?[\d.,]*\d)/)
    .filter(Boolean);

/** What is left, aloud. */
export function lifeWords(left: number): string {
  if (left < 0) return "beyond its limit";
  if (left === 0) return "at its limit";
  return `${Math.round(100 * left)} % wear left`;
}
