import { parted } from "./number";
import { inUnit, say, withUnit } from "./quantity";
import type { Quantity, Unit } from "./types";

/** From how many times on a value is asked about: a slip of a decimal or of the unit, not a loose bearing. */
const order = 8;

/**
 * What to ask before a value is taken that lies an order away from those beside
 * it; undefined when there is nothing to ask. Values on both sides of nought, or
 * far apart among themselves, say nothing about the next.
 */
export function strange(
  typed: string,
  unit: string,
  beside: readonly Quantity[],
  units: readonly Unit[] | undefined,
): string | undefined {
  const value = read(withUnit(typed, unit), units);
  const last = beside.at(-1);
  if (!value || !last || !units?.some((u) => u.symbol === last.unit)) return undefined;
  const range = sizesOf(beside.map((q) => inUnit(q, last.unit, units)));
  if (!range) return undefined;
  const { least, most } = range;
  const size = Math.abs(inUnit(value, last.unit, units));
  if (size === 0 || (size < order * most && size * order > least)) return undefined;
  const times = size > most ? size / most : least / size;
  return `${value.value} ${value.unit} is ${Math.round(times)} times ${size > most ? "larger" : "smaller"} than ${say(last, units)}. Is that right?`;
}

/** The least and the most of values that lie on one side of nought and near each other. */
function sizesOf(values: readonly number[]) {
  const sign = Math.sign(values[0] ?? 0);
  const sizes = values.map(Math.abs);
  const [least, most] = [Math.min(...sizes), Math.max(...sizes)];
  const alike = values.every((v) => v !== 0 && Math.sign(v) === sign) && most < order * least;
  return alike ? { least, most } : undefined;
}

/** A plain number with a unit that is known; anything else the server judges. */
function read(text: string, units: readonly Unit[] | undefined): Quantity | undefined {
  const found = parted(text.trim());
  return found && units?.some((u) => u.symbol === found.unit) ? found : undefined;
}
