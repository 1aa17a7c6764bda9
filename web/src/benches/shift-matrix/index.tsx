import { useState } from "react";
import { keyOf } from "../../model/keymap";
import { beside, type Cell, cellsOf, feels, nextCell, shiftRows } from "../../model/shift";
import type { Draft } from "../../model/types";
import { Frame } from "../../parts/Frame";
import { useKey } from "../../parts/keys";
import { bench, type BenchProps } from "../bench";
import { Feel } from "./Feel";
import { Meaning } from "./Meaning";

type Props = BenchProps<"shift-matrix">;

/** Gears across, states down: each cell takes a key or a touch; what it was before stands in its corner. */
function Drawing({ input, given, questions, acts, say }: Props) {
  const cells = cellsOf(given.asked);
  const first = cells.find((c) => !c.entry) ?? cells[0];
  const [picked, setPicked] = useState<string | undefined>();
  const at = cells.some((c) => c.ask.id === picked) ? picked : first?.ask.id;
  const open = acts.some((a) => a.act === "reading");
  if (cells.length === 0) return questions;
  const take = (feel: string) => {
    const cell = cells.find((c) => c.ask.id === at);
    if (!at || !cell) return;
    const next = nextCell(cells, at);
    if (document.activeElement?.id.startsWith("cell.")) document.getElementById(`cell.${next}`)?.focus();
    setPicked(next);
    if (cell.entry?.body.outcome !== feel) say(draftOf(cell, feel));
  };
  return (
    <>
      <Frame label={given.title}>
        <Matrix cells={cells} at={open ? at : undefined} before={input.before ?? []} onPick={setPicked} />
      </Frame>
      {open && at && <Feels cell={cells.find((c) => c.ask.id === at)} onTake={take} />}
    </>
  );
}

const draftOf = (cell: Cell, outcome: string): Draft => ({
  act: "reading",
  item: cell.entry?.item ?? cell.ask.id,
  outcome,
  ...(cell.entry && { supersedes: cell.entry.id }),
});

type Before = NonNullable<Props["input"]["before"]>;

const ways: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  Home: [-99, 0],
  End: [99, 0],
};

type MatrixProps = {
  cells: readonly Cell[];
  at: string | undefined;
  before: Before;
  onPick: (id: string) => void;
};

function Matrix({ cells, at, before, onPick }: MatrixProps) {
  const gears = [...new Set(cells.map((c) => c.gear))];
  const rows = shiftRows.filter((r) => cells.some((c) => c.row === r.id));
  const move = (e: React.KeyboardEvent, from: string) => {
    const way = ways[e.key];
    if (!way) return;
    e.preventDefault();
    const to = beside(cells, from, way);
    onPick(to);
    document.getElementById(`cell.${to}`)?.focus();
  };
  return (
    <table className="border-collapse">
      <caption className="sr-only">How each gear feels in each state</caption>
      <thead>
        <tr>
          <td>
            <span className="sr-only">state</span>
          </td>
          {gears.map((g) => (
            <th key={g} scope="col" className="font-mono font-medium text-head w-[62px] pb-1">
              {g}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.id}>
            <th scope="row" className="text-right font-normal text-note pr-3 min-w-[150px] leading-tight">
              {r.title}
            </th>
            {gears.map((g) => {
              const cell = cells.find((c) => c.gear === g && c.row === r.id);
              const was = before.find(
                (b) => b.gear === g && b.state === r.state && b.temperature === r.temperature,
              )?.feel;
              return (
                <td key={g} className="border border-ink p-0">
                  {cell && (
                    <CellDrawn
                      cell={cell}
                      was={was}
                      chosen={cell.ask.id === at}
                      onPick={onPick}
                      onMove={move}
                    />
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type CellProps = {
  cell: Cell;
  was: string | undefined;
  chosen: boolean;
  onPick: (id: string) => void;
  onMove: (e: React.KeyboardEvent, from: string) => void;
};

function CellDrawn({ cell, was, chosen, onPick, onMove }: CellProps) {
  const feel = cell.entry?.body.outcome;
  const text = feels.find((f) => f.id === feel)?.text ?? "not tried";
  const before = feels.find((f) => f.id === was?.replace("_", "-"))?.text;
  return (
    <button
      type="button"
      id={`cell.${cell.ask.id}`}
      data-cell={cell.ask.id}
      tabIndex={chosen ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${cell.ask.text}: ${text}${before ? `, before: ${before}` : ""}`}
      onClick={() => onPick(cell.ask.id)}
      onKeyDown={(e) => onMove(e, cell.ask.id)}
      className={`relative size-[62px] flex items-center justify-center ${chosen ? "bg-tint outline-[3px] outline-blue -outline-offset-[3px]" : "bg-sheet"}`}
    >
      {feel && <Feel id={feel} size={30} />}
      {was && (
        <span className="absolute right-1 bottom-1 opacity-70">
          <Feel id={was.replace("_", "-")} size={13} />
        </span>
      )}
    </button>
  );
}

type FeelsProps = { cell: Cell | undefined; onTake: (feel: string) => void };

/** The five ways it can feel, each with its key. */
function Feels({ cell, onTake }: FeelsProps) {
  if (!cell) return null;
  return (
    <div className="border border-ink border-t-0 px-3.5 py-2 flex flex-wrap gap-x-4 gap-y-1.5 items-center">
      <span className="text-line grow basis-[190px]">{cell.ask.text}</span>
      <div className="flex flex-wrap" role="group" aria-label={cell.ask.text}>
        {feels.map((f) => (
          <One key={f.id} feel={f} chosen={cell.entry?.body.outcome === f.id} onTake={onTake} />
        ))}
      </div>
    </div>
  );
}

type OneProps = {
  feel: (typeof feels)[number];
  chosen: boolean;
  onTake: (feel: string) => void;
};

function One({ feel, chosen, onTake }: OneProps) {
  useKey(feel.key, `it ${feel.text}`, () => onTake(feel.id));
  return (
    <button
      type="button"
      name="feel"
      value={feel.id}
      aria-pressed={chosen}
      onClick={() => onTake(feel.id)}
      className={`min-h-11 px-3 border border-ink -ml-px first:ml-0 flex items-center gap-2 ${chosen ? "bg-tint font-semibold" : "bg-sheet"}`}
    >
      <Feel id={feel.id} size={16} />
      {feel.text}
      <kbd>{keyOf(feel.key)}</kbd>
    </button>
  );
}

export default bench<"shift-matrix">({ calc: "shift-matrix", Drawing, Meaning });
