import { drawn } from "./number";

/** A typed length in millimetres, to draw it; undefined while it is none. */
export function millimetres(text: string | undefined): number | undefined {
  const m = /^\s*([-+−]?[\d.,]+)\s*(mm|cm|in|thou)?\s*$/.exec(text ?? "");
  if (!m?.[1]) return undefined;
  const n = drawn(m[1]);
  const factor = { mm: 1, cm: 10, in: 25.4, thou: 0.0254 }[m[2] ?? "mm"] ?? 1;
  return n === undefined ? undefined : n * factor;
}

/** Whole millimetres on a bell housing. */
export const clampMm = (n: number) => Math.max(-600, Math.min(600, Math.round(n)));

/** A typed ratio, to draw it. */
export function ratioOf(text: string | undefined): number | undefined {
  const n = drawn(text);
  return n !== undefined && n > 0 ? n : undefined;
}

/** A drawn ratio as it is typed. */
export const turned = (ratio: number) => Math.max(0.3, Math.min(20, ratio)).toFixed(2);
