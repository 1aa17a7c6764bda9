/*
 * The one place where text becomes a number in the browser. What a hand typed is read in Go: it travels as
 * text; here it is only guessed at, to draw it while it is typed.
 */

/** A number this program wrote itself: a place in a path, an answer's id. */
export const placed = (text: string | undefined): number => Number(text);

/** A typed figure, to draw it; undefined while it is none. */
export function drawn(text: string | number | undefined): number | undefined {
  const said = String(text ?? "")
    .trim()
    .replace("−", "-")
    .replace(",", ".");
  const n = Number(said);
  return said !== "" && Number.isFinite(n) ? n : undefined;
}

/** A number with so many digits that count. */
export const rounded = (n: number, digits: number): number => Number(n.toPrecision(digits));

/** A share as it is typed, of a hundred: 0.07 is 7. */
export const ofHundred = (share: number): string => String(rounded(share * 100, 12));

/** A typed share of a hundred as it travels. */
export const percent = (text: string): string =>
  text.trim() === "" || text.includes("%") ? text : `${text} %`;

/** A quantity as it travels, taken apart. */
export function parted(text: string): { value: number; unit: string } | undefined {
  const [, number, unit] = /^\s*([-+−]?[\d.,]+)\s*([^\s\d.].*)$/.exec(text) ?? [];
  const value = drawn(number);
  return value !== undefined && unit ? { value, unit } : undefined;
}

/** Whether a number is a whole one. */
export const isWhole = (n: number): boolean => Number.isInteger(n);
