import { asQuantity, withUnit } from "./quantity";
import type { components } from "./schema.gen";
import type { InputOf } from "./results";
import type { Instrument, Quantity } from "./types";

export type Worn = components["schemas"]["Worn"];

export type WornTyped = { what: string; value: string; new: string; limit: string };

/**
 * What was measured of a part as it is kept; undefined while something is
 * missing. Several readings stand one behind the other: 8.28 8.31. Bare figures
 * take the unit of the limit, or mm.
 */
export function wornOf(typed: WornTyped): Worn | undefined {
  const texts = readingsOf(typed.value);
  const unit =
    [typed.limit, typed.new, ...texts].map((x) => asQuantity(point(x))?.unit).find(Boolean) ?? "mm";
  const said = (text: string) => asQuantity(point(withUnit(text, unit)));
  const [fresh, limit] = [said(typed.new), said(typed.limit)];
  const readings = texts.flatMap((t) => said(t) ?? []);
  const [value] = readings;
  if (typed.what.trim() === "" || !value || readings.length < texts.length || !fresh || !limit)
    return undefined;
  return {
    what: typed.what.trim(),
    ...(readings.length > 1 ? { readings } : { value }),
    new: fresh,
    limit,
  };
}

const readingsOf = (text: string) =>
  text
    .trim()
    .split(/[;\s]+(?=[-+−]?[\d.,]*\d)/)
    .filter(Boolean);

const point = (text: string) => text.replace(",", ".").replace("−", "-");

/** What was read, or the mean of it while the server has not said so. */
export function measured(w: Worn): Quantity | undefined {
  const [first, ...rest] = w.readings ?? [];
  if (w.value || !first) return w.value;
  if (rest.some((r) => r.unit !== first.unit)) return undefined;
  const sum = rest.reduce((s, r) => s + r.value, first.value);
  return { value: sum / (rest.length + 1), unit: first.unit };
}

/** What the reading set is asked of a part: of several readings, or of one with a gauge that is known. */
export function readingSet(w: Worn, gauge: Instrument | undefined): InputOf<"reading-set"> | undefined {
  const readings = w.readings ?? (w.value && gauge ? [w.value] : undefined);
  if (!readings) return undefined;
  const shrinks = w.new.value > w.limit.value;
  return {
    readings,
    ...(shrinks ? { lower: w.limit } : { upper: w.limit }),
    ...(gauge && {
      instrument: {
        name: gauge.name,
        ...(gauge.resolution && { resolution: gauge.resolution }),
        ...(gauge.mpe && { mpe: gauge.mpe }),
        ...(gauge.repeatability && { repeatability: gauge.repeatability }),
      },
    }),
  };
}

/** The share of a part's wear that is left; undefined where its figures are in different units, which the server works out. */
export function lifeLeft(w: Worn): number | undefined {
  const value = measured(w);
  if (!value || value.unit !== w.limit.unit || w.new.unit !== w.limit.unit || w.new.value === w.limit.value)
    return undefined;
  return (value.value - w.limit.value) / (w.new.value - w.limit.value);
}

/** How far the share may be off, from how sure the figure is. */
export function lifeSure(w: Worn): number {
  if (!w.sure || w.sure.unit !== w.limit.unit || w.new.unit !== w.limit.unit) return 0;
  return Math.abs(w.sure.value / (w.new.value - w.limit.value));
}

/** What is left, aloud. */
export function lifeWords(left: number): string {
  if (left < 0) return "beyond its limit";
  if (left === 0) return "at its limit";
  return `${Math.round(100 * left)} % of its life left`;
}
