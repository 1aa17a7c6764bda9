import { has } from "./json";
import { parted } from "./number";
import type { Quantity, Unit, Units } from "./types";

/** Joins what was typed with the remembered unit: "7" becomes "7 thou". */
export function withUnit(typed: string, unit: string): string {
  const text = typed.trim();
  return text !== "" && /^[-+−]?[\d.,/ ]+$/.test(text) ? `${text} ${unit}` : text;
}

/** Says a quantity with as many decimals as its unit usually shows. */
export function say(q: Quantity, units: Units, more = 0): string {
  return `${sayNumber(q, units, more)} ${q.unit}`;
}

/** How much it is, whichever way. */
export const unsigned = (q: Quantity): Quantity => ({ ...q, value: Math.abs(q.value) });

export function sayNumber(q: Quantity, units: Units, more = 0): string {
  const decimals = units?.find((u) => u.symbol === q.unit)?.decimals ?? 2;
  return q.value.toFixed(decimals + more).replace("-", "−");
}

/** The same quantity in the unit that stands beside it: mm and thou, L and quarts. */
export function paired(q: Quantity, units: Units, difference = false): Quantity | undefined {
  const from = units?.find((u) => u.symbol === q.unit);
  const to = units?.find((u) => u.symbol === from?.paired);
  if (!from || !to || from === to) return undefined;
  return { value: convert(q.value, from, to, difference), unit: to.symbol };
}

/** That both measure the same: a length, a torque. */
export function sameKind(a: string, b: string, units: Units): boolean {
  const kind = (symbol: string) => units?.find((u) => u.symbol === symbol)?.dimension;
  return kind(a) !== undefined && kind(a) === kind(b);
}

/** A value in another unit, for drawing on one scale. */
export function inUnit(q: Quantity, symbol: string, units: Units): number {
  const from = units?.find((u) => u.symbol === q.unit);
  const to = units?.find((u) => u.symbol === symbol);
  return from && to ? convert(q.value, from, to, false) : q.value;
}

function convert(value: number, from: Unit, to: Unit, difference: boolean): number {
  const si = (value + (difference ? 0 : (from.offset ?? 0))) * from.factor;
  return si / to.factor - (difference ? 0 : (to.offset ?? 0));
}

/**
 * Says a figure of the sheet: a limit with one side or both, a quantity, a number in the unit asked for, a
 * word.
 */
export function sayFigure(figure: unknown, units: Units, unit = ""): string {
  if (typeof figure === "number") return `${figure} ${unit}`;
  if (isQuantity(figure)) return say(figure, units);
  const side = (name: string) => (has(figure, name) ? asQuantity(figure[name]) : undefined);
  const [min, max] = [side("min"), side("max")];
  if (min && max) return `${say(min, units)} to ${say(max, units)}`;
  if (max) return `up to ${say(max, units)}`;
  if (min) return `from ${say(min, units)}`;
  return typeof figure === "object" ? "" : String(figure);
}

/** The unit after this one, for a button that turns through them. */
export const nextOf = (units: readonly string[], unit: string): string =>
  units[(units.indexOf(unit) + 1) % units.length] ?? unit;

export const isQuantity = (x: unknown): x is Quantity =>
  has(x, "value") && has(x, "unit") && typeof x.value === "number" && typeof x.unit === "string";

/** A quantity as JSON may have it: an object, or a text like "-5 in". */
export function asQuantity(said: unknown): Quantity | undefined {
  if (isQuantity(said)) return said;
  return typeof said === "string" ? parted(said) : undefined;
}

/** A clock position in words: 8.25 is 8:15. */
export function sayClock(clock: number): string {
  const minutes = Math.round((((clock % 12) + 12) % 12) * 60) % 720;
  return `${Math.floor(minutes / 60) || 12}:${String(minutes % 60).padStart(2, "0")}`;
}
