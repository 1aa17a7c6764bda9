import type { KeyName } from "../../parts/keymap";
import type { InputOf } from "../../model/results";
import type { AskView, Entry } from "../../model/types";

type Tried = NonNullable<InputOf<"shift-matrix">["cells"]>[number];
export type FeelId = NonNullable<Tried["feel"]>;

/** How a gear can feel, with the key that says so; the catalogue has the words. */
export const feels: readonly { id: FeelId; key: KeyName }[] = [
  { id: "in", key: "goesIn" },
  { id: "stiff", key: "stiff" },
  { id: "crunches", key: "crunches" },
  { id: "refuses", key: "refuses" },
  { id: "jumps_out", key: "jumpsOut" },
];

/** One cell: a gear in a state, with the question that asks for it where a step does. */
export type Cell = Tried & { id: string; row: string; ask?: AskView; entry?: Entry };

/** An entry says jumps-out, the calculator jumps_out. */
export const feelOf = (outcome: string | undefined): FeelId | undefined =>
  feels.find((f) => f.id === outcome?.replace("-", "_"))?.id;

/** The cells of what the calculator is given, each with its question. */
export function cellsOf(
  input: Partial<InputOf<"shift-matrix">>,
  asked: readonly { ask: AskView; entry: Entry | undefined }[] = [],
): Cell[] {
  return (input.cells ?? []).map(({ feel: known, ...c }, i) => {
    const at = asked.find((a) => a.ask.feeds === `cells[${i}].feel`);
    const feel = at ? feelOf(at.entry?.body.outcome) : known; // what waits to be sent counts already
    return {
      ...c,
      ...(feel && { feel }),
      id: at?.ask.id ?? `${c.gear} ${c.state} ${c.temperature}`,
      row: `${c.state} ${c.temperature}`,
      ...(at && { ask: at.ask }),
      ...(at?.entry && { entry: at.entry }),
    };
  });
}

/** The states that were tried or are asked for, as they came. */
export const rowsOf = (cells: readonly Cell[]): Cell[] =>
  cells.filter((c, i) => cells.findIndex((x) => x.row === c.row) === i);

/** Where the hand goes next: the gear beside it, then the row below; back to the first at the end. */
export function nextCell(cells: readonly Cell[], at: string): string | undefined {
  const order = rowsOf(cells).flatMap(({ row }) => cells.filter((c) => c.row === row).map((c) => c.id));
  return order[(order.indexOf(at) + 1) % order.length];
}

const within = <T>(list: readonly T[], i: number) => list[Math.min(list.length - 1, Math.max(0, i))];

/** The cell that lies that way, as far as there are any. */
export function beside(cells: readonly Cell[], at: string, by: readonly [number, number]): string {
  const here = cells.find((c) => c.id === at);
  if (!here) return at;
  const rows = rowsOf(cells).map((r) => r.row);
  const gears = [...new Set(cells.map((c) => c.gear))];
  const gear = within(gears, gears.indexOf(here.gear) + by[0]);
  const row = within(rows, rows.indexOf(here.row) + by[1]);
  return cells.find((c) => c.gear === gear && c.row === row)?.id ?? at;
}
