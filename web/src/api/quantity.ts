import type { Quantity, Unit } from "./types";

/** Joins what was typed with the remembered unit: "7" becomes "7 thou". */
export function withUnit(typed: string, unit: string): string {
  const text = typed.trim();
  return text !== "" && /^[-+−]?[\d.,/ ]+$/.test(text) ? `${text} ${unit}` : text;
}

/** Says a quantity with as many decimals as its unit usually shows. */
export function say(q: Quantity, units: readonly Unit[] | undefined, more = 0): string {
  return `${sayNumber(q, units, more)} ${q.unit}`;
}

export function sayNumber(q: Quantity, units: readonly Unit[] | undefined, more = 0): string {
  const decimals = units?.find((u) => u.symbol === q.unit)?.decimals ?? 2;
  return q.value.toFixed(decimals + more).replace("-", "−");
}

/** The same quantity in the unit that stands beside it: mm and thou, L and quarts. */
export function paired(q: Quantity, units: readonly Unit[] | undefined, difference = false): Quantity | undefined {
  const from = units?.find((u) => u.symbol === q.unit);
  const to = units?.find((u) => u.symbol === from?.paired);
  if (!from || !to || from === to) return undefined;
  return { value: convert(q.value, from, to, difference), unit: to.symbol };
}

/** A value in another unit, for drawing on one scale. */
export function inUnit(q: Quantity, symbol: string, units: readonly Unit[] | undefined): number {
  const from = units?.find((u) => u.symbol === q.unit);
  const to = units?.find((u) => u.symbol === symbol);
  return from && to ? convert(q.value, from, to, false) : q.value;
}

function convert(value: number, from: Unit, to: Unit, difference: boolean): number {
  const si = (value + (difference ? 0 : (from.offset ?? 0))) * from.factor;
  return si / to.factor - (difference ? 0 : (to.offset ?? 0));
}

/** Says a figure of the sheet: a limit with one side or both, a quantity, a number in the unit asked for, a word. */
export function sayFigure(figure: unknown, units: readonly Unit[] | undefined, unit = ""): string {
  if (typeof figure === "number") return `${figure} ${unit}`;
  if (typeof figure !== "object" || figure === null) return String(figure);
  const f = figure as Partial<Quantity> & { min?: Quantity; max?: Quantity };
  if (f.value !== undefined && f.unit) return say(f as Quantity, units);
  if (f.min && f.max) return `${say(f.min, units)} to ${say(f.max, units)}`;
  return f.max ? `up to ${say(f.max, units)}` : f.min ? `from ${say(f.min, units)}` : "";
}
