import type { KeyName } from "./keymap";
import type { AskView, Entry } from "./types";

/** The rows of the matrix, as the questions of its step end. */
export const shiftRows = [
  { id: "engine-off", title: "engine off", state: "engine_off", temperature: "cold" },
  { id: "standing", title: "standing, clutch down", state: "standing", temperature: "cold" },
  { id: "held", title: "after third stopped the shafts", state: "clutch_held", temperature: "cold" },
  { id: "rolling", title: "rolling", state: "rolling", temperature: "cold" },
  { id: "warm", title: "standing, warm", state: "standing", temperature: "warm" },
] as const;

/** How a gear can feel, with the key that says so. */
export const feels: readonly { id: string; text: string; key: KeyName }[] = [
  { id: "in", text: "goes in", key: "goesIn" },
  { id: "stiff", text: "stiff", key: "stiff" },
  { id: "crunches", text: "crunches", key: "crunches" },
  { id: "refuses", text: "refuses", key: "refuses" },
  { id: "jumps-out", text: "jumps out", key: "jumpsOut" },
];

export type Cell = { ask: AskView; entry: Entry | undefined; gear: string; row: string };

/** The questions of a step as cells: "gear-2-standing" is second, standing. */
export function cellsOf(asked: readonly { ask: AskView; entry: Entry | undefined }[]): Cell[] {
  return asked.flatMap(({ ask, entry }) => {
    const m = /^gear-([^-]+)-(.+)$/.exec(ask.id);
    return m?.[1] && m[2] ? [{ ask, entry, gear: m[1].toUpperCase(), row: m[2] }] : [];
  });
}

/** Where the hand goes next: the gear beside it, then the row below; back to the first at the end. */
export function nextCell(cells: readonly Cell[], at: string): string | undefined {
  const rows = shiftRows.map((r) => r.id as string).filter((id) => cells.some((c) => c.row === id));
  const order = rows.flatMap((row) => cells.filter((c) => c.row === row).map((c) => c.ask.id));
  return order[(order.indexOf(at) + 1) % order.length];
}

const within = <T>(list: readonly T[], i: number) => list[Math.min(list.length - 1, Math.max(0, i))];

/** The cell that lies that way, as far as there are any. */
export function beside(cells: readonly Cell[], at: string, by: readonly [number, number]): string {
  const rows = shiftRows.map((r) => r.id as string).filter((id) => cells.some((c) => c.row === id));
  const here = cells.find((c) => c.ask.id === at);
  if (!here) return at;
  const gears = [...new Set(cells.map((c) => c.gear))];
  const gear = within(gears, gears.indexOf(here.gear) + by[0]);
  const row = within(rows, rows.indexOf(here.row) + by[1]);
  return cells.find((c) => c.gear === gear && c.row === row)?.ask.id ?? at;
}
