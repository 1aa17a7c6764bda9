import { useState } from "react";
import {
  type Cell,
  type FigureKnown,
  fieldsOf,
  figureOf,
  rowsOf,
  saidOf,
  startOf,
  type Typed,
  typedOf,
  isWord,
  whole,
} from "../model/asked";
import { record } from "../model/json";
import { placed } from "../model/number";
import type { KnownPart } from "../model/sold";
import { Answers } from "./Answers";
import { Button } from "./Button";
import { drawnFigures } from "./drawn";
import { Field } from "./Field";
import { useKept } from "./kept";

type Editor = ReturnType<typeof useFigure>;

/** A figure of a sheet being typed; with what it says now, when it says something. */
export function useFigure(figure: FigureKnown, place: string, now?: unknown) {
  const before = now === undefined ? undefined : saidOf(figure, now);
  const [kept, setKept] = useKept(place);
  const [unit, setUnit] = useKept(`${place}.unit`, before?.unit ?? figure.unit ?? "");
  const [start, setStart] = useState(0);
  const begin = before?.start ?? startOf(figure, start);
  const [rows, setRows] = useState<unknown[]>(() => whole(figure, rowsOf(begin)));
  const typed: Typed = kept
    ? asTyped(kept)
    : (before?.typed ?? { ...typedOf(begin), ...(figure.shape === "torque" && { tolerance: "6" }) });
  return {
    rows,
    setRows,
    typed,
    unit,
    start,
    begin,
    begun: before !== undefined,
    onUnit: setUnit,
    onType: (name: string, text: string) => setKept(JSON.stringify({ ...typed, [name]: text })),
    onTypeAll: (more: Typed) => setKept(JSON.stringify({ ...typed, ...more })),
    onRows(next: unknown[], said: Typed) {
      setRows(next);
      setKept(JSON.stringify(said));
    },
    onStart(i: number) {
      setStart(i);
      setRows(whole(figure, rowsOf(startOf(figure, i))));
      setKept("");
    },
    clear: () => setKept(""),
    value: figureOf(figure, typed, unit, begin, rows, now),
  };
}

function asTyped(kept: string): Typed {
  const found = record(kept);
  return Object.fromEntries(Object.entries(found).map(([k, v]) => [k, String(v)]));
}

const none: readonly KnownPart[] = [];

type EditorProps = {
  figure: FigureKnown;
  editor: Editor;
  wrong: boolean;
  /** The parts that the unit is known to have, for what is sold of them. */
  parts?: readonly KnownPart[];
};

/** Where a figure of any shape is typed. */
export function FigureEditor({ figure, editor, wrong, parts = none }: EditorProps) {
  const { rows, setRows, begin } = editor;
  return (
    <>
      {!editor.begun && (figure.starts?.length ?? 0) > 1 && (
        <Answers
          label="Start from"
          answers={(figure.starts ?? []).map((s, i) => ({ id: String(i), text: s.title }))}
          chosen={String(editor.start)}
          keyed={false}
          marks
          onPick={(i) => editor.onStart(placed(i))}
        />
      )}
      <Value figure={figure} editor={editor} wrong={wrong} parts={parts} />
      {figure.shape === "rows" && Array.isArray(begin) && !drawnFigures[figure.path]?.grows && (
        <div className="flex gap-2">
          <Button onClick={() => setRows([...rows, blank(rows.at(-1))])}>Add a line</Button>
          {rows.length > 1 && (
            <Button onClick={() => setRows(rows.slice(0, -1))}>Remove the last line</Button>
          )}
        </div>
      )}
    </>
  );
}

/** A line like another, with nothing in it. */
function blank(like: unknown): unknown {
  if (typeof like !== "object" || like === null) return null;
  return Object.fromEntries(Object.entries(like).map(([k, v]) => [k, blank(v)]));
}

function Value(p: EditorProps) {
  const { figure, editor } = p;
  if (figure.shape === "yes-no" || figure.shape === "word")
    return (
      <Answers
        label={figure.title}
        answers={figure.shape === "word" ? (figure.words ?? []) : yesNo}
        chosen={editor.typed.value}
        keyed
        marks
        onPick={(id) => editor.onType("value", id)}
      />
    );
  return figure.shape === "rows" ? <Structure {...p} /> : <Cells {...p} />;
}

const yesNo = [
  { id: "yes", text: "Yes" },
  { id: "no", text: "No" },
];

/** A structure: drawn where it has a drawing, line by line where that does not say all. */
function Structure({ figure, editor, parts = none }: EditorProps) {
  const { rows, typed, onType, onTypeAll, onRows } = editor;
  const drawn = drawnFigures[figure.path];
  return (
    <>
      {drawn && <drawn.Drawn {...{ rows, typed, onType, onTypeAll, onRows, parts }} />}
      {!drawn?.alone && <Rows figure={figure} rows={fieldsOf(figure, rows)} typed={typed} onType={onType} />}
    </>
  );
}

/** The few fields of a figure, with its unit. */
function Cells({ figure, editor, wrong }: EditorProps) {
  const { rows, typed, unit, onType, onUnit } = editor;
  const units = figure.units ?? [];
  const words = figure.shape === "text";
  return (
    <div className="flex flex-wrap gap-3 items-end">
      {fieldsOf(figure, rows)
        .flat()
        .map((f, i) => (
          <Field
            key={f.name}
            label={f.label}
            value={typed[f.name] ?? ""}
            onValue={(v) => onType(f.name, v)}
            numeric={!words}
            inputMode={words ? "text" : "decimal"}
            autoFocus={i === 0}
            aria-invalid={wrong || undefined}
            unit={bare(figure, f) ? undefined : unit}
            className="basis-[160px]"
          />
        ))}
      {units.length > 1 && (
        <Button
          look="quiet"
          title="change unit"
          onClick={() => onUnit(units[(units.indexOf(unit) + 1) % units.length] ?? unit)}
        >
          {unit}
        </Button>
      )}
    </div>
  );
}

const bare = (f: FigureKnown, c: Cell) =>
  ["bolts", "tolerance", "angle_deg"].includes(c.name) || f.shape === "number" || f.shape === "text";

type RowsProps = {
  figure: FigureKnown;
  rows: Cell[][];
  typed: Typed;
  onType: (name: string, text: string) => void;
};

/** A structure line by line. */
function Rows({ figure, rows, typed, onType }: RowsProps) {
  const { title } = figure;
  return (
    <div className="overflow-x-auto border border-hair" tabIndex={0} role="group" aria-label={title}>
      <table className="border-collapse w-full">
        <caption className="sr-only">{title}</caption>
        <thead>
          <tr className="text-quiet text-small text-left">
            {rows[0]?.map((c) => (
              <th key={c.name} scope="col" className="font-normal px-2 py-1">
                {c.label || title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row[0]?.name} className="border-t border-hair">
              {row.map((c, k) => (
                <td key={c.name} className="border-l border-hair first:border-l-0">
                  <input
                    aria-label={`${c.label || title}, line ${i + 1}`}
                    value={typed[c.name] ?? ""}
                    onChange={(e) => onType(c.name, e.target.value)}
                    inputMode={isWord(figure, c.name) ? "text" : "decimal"}
                    autoFocus={i === 0 && k === row.findIndex((x) => !typed[x.name])}
                    className="min-h-11 w-full min-w-[76px] px-2 bg-field font-mono"
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
