import { useMutation } from "@tanstack/react-query";
import { useId, useState } from "react";
import { type Cell, fieldsOf, figureOf, rowsOf, startOf, type Typed, typedOf } from "../model/asked";
import { record } from "../model/json";
import { client, unwrap } from "../model/client";
import { type FigureView, liveAt, may, type Origin } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { useSession } from "../parts/data";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useKept } from "../parts/kept";
import { useKey } from "../parts/keys";
import type { StepProps } from "./props";

const origins: { id: Origin; text: string; wants: string }[] = [
  { id: "makers-book", text: "Maker's book", wants: "which page" },
  { id: "plate", text: "Plate or stamp", wants: "where it stands" },
  { id: "measured", text: "Measured on a sound unit", wants: "on which, with what" },
  { id: "judgement", text: "This shop's judgement", wants: "why" },
];

/** What the spec sheet does not say and the step wants: asked for here, one after the other. */
export function FiguresAsked(p: StepProps) {
  const missing = (p.view.figures ?? []).filter((f) => !f.entry);
  const [first, ...rest] = missing;
  if (!first) return null;
  return (
    <section
      aria-label="What the spec sheet does not say"
      className="border border-ink border-l-6 border-l-blue mt-3.5"
    >
      <FigureForm key={first.path} {...p} figure={first} left={missing.length} />
      {rest.length > 0 && (
        <p className="px-4 py-2.5 border-t border-hair text-quiet text-note">
          Then: {rest.map((f) => f.title.toLowerCase()).join(", ")}.
        </p>
      )}
    </section>
  );
}

type FormProps = StepProps & { figure: FigureView; left?: number; supersedes?: string; onDone?: () => void };

function FigureForm({ view, figure, left, supersedes, onDone, say, busy, fault, refused }: FormProps) {
  const place = `figure.${figure.path}`;
  const [kept, setKept] = useKept(place);
  const [unit, setUnit] = useKept(`${place}.unit`, figure.unit ?? "");
  const [origin, setOrigin] = useKept(`${place}.origin`, "makers-book");
  const [note, setNote] = useKept(`${place}.note`);
  const [start, setStart] = useState(0);
  const begin = startOf(figure, start);
  const [rows, setRows] = useState<unknown[]>(() => rowsOf(begin));
  const typed: Typed = kept
    ? asTyped(kept)
    : { ...typedOf(begin), ...(figure.shape === "torque" && { tolerance: "6" }) };
  const value = figureOf(figure, typed, unit, begin, rows);
  const type = (name: string, text: string) => setKept(JSON.stringify({ ...typed, [name]: text }));
  const put = (known: boolean) =>
    say(
      {
        act: "figure",
        item: figure.path,
        origin: known ? asOrigin(origin) : "not-known",
        ...(known && { figure: value }),
        ...(known && note.trim() && { note: note.trim() }),
        ...(supersedes && { supersedes }),
      },
      () => {
        for (const clear of [setKept, setNote]) clear("");
        onDone?.();
      },
    );
  useKey("N", `${figure.title}: not known`, () => put(false), !busy);
  const wrong = refused?.act === "figure" && refused.item === figure.path ? fault : null;
  const wants = origins.find((o) => o.id === origin)?.wants ?? "where from";
  const id = useId();
  return (
    <form
      className="p-4 flex flex-col gap-3"
      aria-labelledby={id}
      onSubmit={(e) => {
        e.preventDefault();
        if (value !== undefined && !busy) put(true);
      }}
    >
      <div>
        <h3 id={id} className="text-head">
          The spec sheet does not say: {figure.title.toLowerCase()}
          {left !== undefined && left > 1 && (
            <span className="text-quiet font-normal text-body"> (1 of {left})</span>
          )}
        </h3>
        {figure.help && <p className="text-quiet">{figure.help}</p>}
      </div>
      {(figure.starts?.length ?? 0) > 1 && (
        <Answers
          label="To begin with"
          answers={(figure.starts ?? []).map((s, i) => ({ id: String(i), text: s.title }))}
          chosen={String(start)}
          keyed={false}
          busy={false}
          onPick={(i) => {
            setStart(Number(i));
            setRows(rowsOf(startOf(figure, Number(i))));
            setKept("");
          }}
        />
      )}
      <Value
        figure={figure}
        rows={rows}
        typed={typed}
        unit={unit}
        onType={type}
        onUnit={setUnit}
        wrong={wrong !== null}
      />
      {figure.shape === "rows" && Array.isArray(begin) && (
        <div className="flex gap-2">
          <Button onClick={() => setRows([...rows, blank(rows.at(-1))])}>One more line</Button>
          {rows.length > 1 && <Button onClick={() => setRows(rows.slice(0, -1))}>One line less</Button>}
        </div>
      )}
      <div className="flex flex-wrap gap-3 items-end">
        <Answers
          label="Where it comes from"
          answers={origins}
          chosen={origin}
          keyed={false}
          busy={false}
          onPick={setOrigin}
        />
        <Field label={`Where from: ${wants}`} value={note} onValue={setNote} className="grow basis-[220px]" />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          look="go"
          type="submit"
          hint="Enter"
          name="figure"
          value={figure.path}
          disabled={busy || value === undefined}
        >
          Work with this
        </Button>
        <Button hint="N" name="figure-unknown" value={figure.path} disabled={busy} onClick={() => put(false)}>
          Not known: go on without a verdict
        </Button>
        {onDone && <Button onClick={onDone}>Leave it</Button>}
      </div>
      <Fault error={wrong} />
      {view.kind === "measure" && (
        <p className="text-quiet text-small">
          It stands in the record of this rebuild with where it comes from.
        </p>
      )}
    </form>
  );
}

const asOrigin = (id: string): Origin => origins.find((o) => o.id === id)?.id ?? "makers-book";

function asTyped(kept: string): Typed {
  const found = record(kept);
  return Object.fromEntries(Object.entries(found).map(([k, v]) => [k, String(v)]));
}

/** A line like another, with nothing in it. */
function blank(like: unknown): unknown {
  if (typeof like !== "object" || like === null) return null;
  return Object.fromEntries(Object.entries(like).map(([k, v]) => [k, blank(v)]));
}

type ValueProps = {
  figure: FigureView;
  rows: readonly unknown[];
  typed: Typed;
  unit: string;
  onType: (name: string, text: string) => void;
  onUnit: (unit: string) => void;
  wrong: boolean;
};

function Value({ figure, rows, typed, unit, onType, onUnit, wrong }: ValueProps) {
  if (figure.shape === "yes-no" || figure.shape === "word") {
    const answers =
      figure.shape === "word"
        ? (figure.words ?? [])
        : [
            { id: "yes", text: "Yes" },
            { id: "no", text: "No" },
          ];
    return (
      <Answers
        label={figure.title}
        answers={answers}
        chosen={typed.value}
        keyed
        busy={false}
        onPick={(id) => onType("value", id)}
      />
    );
  }
  const fields = fieldsOf(figure, rows);
  if (figure.shape === "rows")
    return <Rows title={figure.title} rows={fields} typed={typed} onType={onType} />;
  const units = figure.unit ? [figure.unit, ...(figure.units ?? []).filter((u) => u !== figure.unit)] : [];
  return (
    <div className="flex flex-wrap gap-3 items-end">
      {fields.flat().map((f, i) => (
        <Field
          key={f.name}
          label={f.label}
          value={typed[f.name] ?? ""}
          onValue={(v) => onType(f.name, v)}
          numeric={figure.shape !== "text"}
          inputMode={figure.shape === "text" ? "text" : "decimal"}
          autoFocus={i === 0}
          aria-invalid={wrong || undefined}
          unit={bare(figure, f) ? undefined : unit}
          className="basis-[160px]"
        />
      ))}
      {units.length > 1 && (
        <Button
          look="quiet"
          title="another unit"
          onClick={() => onUnit(units[(units.indexOf(unit) + 1) % units.length] ?? unit)}
        >
          {unit}
        </Button>
      )}
    </div>
  );
}

const bare = (f: FigureView, c: Cell) =>
  c.name === "bolts" || c.name === "tolerance" || f.shape === "number" || f.shape === "text";

type RowsProps = {
  title: string;
  rows: Cell[][];
  typed: Typed;
  onType: (name: string, text: string) => void;
};

/** A structure line by line. */
function Rows({ title, rows, typed, onType }: RowsProps) {
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

/** What was said in the sheet's place, by whom and from where, to be corrected or kept in the sheet. */
export function FiguresSaid(p: StepProps) {
  const { view, plan } = p;
  const [correcting, setCorrecting] = useState<string | undefined>();
  const said = (view.figures ?? []).filter((f) => f.entry);
  if (said.length === 0) return null;
  const stands = (f: FigureView) => liveAt(view.entries, "figure", f.path);
  const titles = new Map(plan.route.stations.flatMap((s) => s.steps).map((s) => [s.id, s.title]));
  return (
    <section aria-label="Said in the spec sheet's place" className="mt-3.5 border-t border-ink">
      {said.map((f) => (
        <div key={f.path} className="border-b border-hair py-1.5">
          <div className="flex flex-wrap gap-x-4 gap-y-1 items-center">
            <p className="grow">
              {f.says}{" "}
              <span className="text-quiet text-small">
                {f.by}
                {f.step !== view.step.id && `, at ${titles.get(f.step ?? "") ?? f.step}`}
              </span>
            </p>
            {stands(f) && may(view, "figure") && (
              <Button look="quiet" onClick={() => setCorrecting(correcting === f.path ? undefined : f.path)}>
                Correct<span className="sr-only"> {f.title}</span>
              </Button>
            )}
            <KeepInSheet {...p} figure={f} />
          </div>
          {correcting === f.path && f.entry && (
            <FigureForm {...p} figure={f} supersedes={f.entry} onDone={() => setCorrecting(undefined)} />
          )}
        </div>
      ))}
    </section>
  );
}

/** A lead keeps a figure in the unit's spec sheet: the next rebuild knows it. */
function KeepInSheet({ rebuild, figure }: StepProps & { figure: FigureView }) {
  const leads = useSession().data?.person.role === "lead";
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/kept-figures", {
          params: { path: { id: rebuild } },
          body: { entry: figure.entry ?? "" },
        }),
      ),
  });
  const can = leads && figure.origin !== "not-known";
  useKey("K", `keep in the spec sheet: ${figure.title}`, () => keep.mutate(), can && !keep.isSuccess);
  if (!can) return null;
  if (keep.data)
    return (
      <p role="status" className="text-in">
        In the sheet, version {keep.data.sheet.version}
      </p>
    );
  return (
    <>
      <Button
        hint="K"
        name="keep-figure"
        value={figure.path}
        disabled={keep.isPending}
        onClick={() => keep.mutate()}
      >
        Keep in the sheet<span className="sr-only">: {figure.title}</span>
      </Button>
      <Fault error={keep.error} />
    </>
  );
}
