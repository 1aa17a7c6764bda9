import { useState } from "react";
import { keyOf } from "../../parts/keymap";
import { beside, type Cell, cellsOf, type FeelId, feelOf, feels, nextCell, rowsOf } from "./shift";
import type { Draft } from "../../model/types";
import { useWords } from "../../data/calc";
import { Frame } from "../../parts/Frame";
import { useKey } from "../../parts/keys";
import { bench, type Face, mayAt } from "../bench";
import { Feel } from "./Feel";
import { Meaning } from "./Meaning";

type Props = Face<"shift-matrix">;

/** Gears across, states down: each cell takes a key or a touch; what it was before stands in its corner. */
function Drawing({ title, input, onInput, step, questions }: Props) {
  const cells = cellsOf(input, step?.asked).filter((c) => !step || c.ask);
  const first = cells.find((c) => !c.feel) ?? cells[0];
  const [picked, setPicked] = useState<string | undefined>();
  const at = cells.some((c) => c.id === picked) ? picked : first?.id;
  const open = onInput !== undefined || mayAt(step, "reading");
  if (cells.length === 0) return questions;
  const take = (feel: FeelId) => {
    const cell = cells.find((c) => c.id === at);
    if (!at || !cell) return;
    const next = nextCell(cells, at);
    if (document.activeElement?.id.startsWith("cell.")) document.getElementById(`cell.${next}`)?.focus();
    setPicked(next);
    if (cell.feel === feel) return;
    if (cell.ask) step?.say(draftOf(cell, feel));
    else
      onInput?.({
        ...input,
        cells: (input.cells ?? []).map((c, i) => (cells[i] === cell ? { ...c, feel } : c)),
      });
  };
  return (
    <>
      <Frame label={title}>
        <Matrix cells={cells} at={open ? at : undefined} before={input.before ?? []} onPick={setPicked} />
      </Frame>
      {open && at && <Feels cell={cells.find((c) => c.id === at)} onTake={take} />}
      {!step && questions}
    </>
  );
}

const draftOf = (cell: Cell, feel: FeelId): Draft => ({
  act: "reading",
  item: cell.entry?.item ?? cell.id,
  outcome: feel.replace("_", "-"),
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
  const rows = rowsOf(cells);
  const word = useWords();
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
      <caption className="sr-only">How each gear goes in</caption>
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
          <tr key={r.row}>
            <th scope="row" className="text-right font-normal text-note pr-3 min-w-[150px] leading-tight">
              {word(`state.${r.state}`)}
              {r.temperature === "warm" && ", warm"}
            </th>
            {gears.map((g) => {
              const cell = cells.find((c) => c.gear === g && c.row === r.row);
              const was = before.find(
                (b) => b.gear === g && b.state === r.state && b.temperature === r.temperature,
              )?.feel;
              return (
                <td key={g} className="border border-ink p-0">
                  {cell && (
                    <CellDrawn cell={cell} was={was} chosen={cell.id === at} onPick={onPick} onMove={move} />
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
  const word = useWords();
  const felt = (outcome: string | undefined) => {
    const feel = feelOf(outcome);
    return feel && word(`feel.${feel}`);
  };
  const before = felt(was);
  const { feel } = cell;
  return (
    <button
      type="button"
      id={`cell.${cell.id}`}
      data-cell={cell.id}
      tabIndex={chosen ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${nameOf(cell, word)}: ${felt(feel) ?? "not tried"}${before ? `, before: ${before}` : ""}`}
      onClick={() => onPick(cell.id)}
      onKeyDown={(e) => onMove(e, cell.id)}
      className={`relative size-[62px] flex items-center justify-center ${chosen ? "bg-tint outline-[3px] outline-blue -outline-offset-[3px]" : "bg-sheet"}`}
    >
      {feel && <Feel id={feel} size={30} />}
      {was && (
        <span className="absolute right-1 bottom-1 opacity-70">
          <Feel id={was} size={13} />
        </span>
      )}
    </button>
  );
}

const nameOf = (c: Cell, word: (key: string) => string) =>
  c.ask?.text ?? `${c.gear}, ${word(`state.${c.state}`)}`;

type FeelsProps = { cell: Cell | undefined; onTake: (feel: FeelId) => void };

/** The five ways it can feel, each with its key. */
function Feels({ cell, onTake }: FeelsProps) {
  const word = useWords();
  if (!cell) return null;
  const name = nameOf(cell, word);
  return (
    <div className="border border-ink border-t-0 px-3.5 py-2 flex flex-wrap gap-x-4 gap-y-1.5 items-center">
      <span className="text-line grow basis-[190px]">{name}</span>
      <div className="flex flex-wrap" role="group" aria-label={name}>
        {feels.map((f) => (
          <One key={f.id} feel={f} text={word(`feel.${f.id}`)} chosen={cell.feel === f.id} onTake={onTake} />
        ))}
      </div>
    </div>
  );
}

type OneProps = {
  feel: (typeof feels)[number];
  text: string;
  chosen: boolean;
  onTake: (feel: FeelId) => void;
};

function One({ feel, text, chosen, onTake }: OneProps) {
  useKey(feel.key, `it ${text}`, () => onTake(feel.id));
  return (
    <button
      type="button"
      name="feel"
      value={feel.id.replace("_", "-")}
      aria-pressed={chosen}
      onClick={() => onTake(feel.id)}
      className={`min-h-11 px-3 border border-ink -ml-px first:ml-0 flex items-center gap-2 ${chosen ? "bg-tint font-semibold" : "bg-sheet"}`}
    >
      <Feel id={feel.id} size={16} />
      {text}
      <kbd>{keyOf(feel.key)}</kbd>
    </button>
  );
}

export default bench<"shift-matrix">({ calc: "shift-matrix", Drawing, Meaning });
