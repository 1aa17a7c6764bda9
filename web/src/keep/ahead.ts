import type { EntryView, Person, StepView, TorqueView, Trial } from "../api/types";
import type { Waiting } from "./outbox";

/**
 * A step as it will be when the server has taken what waits: the next bolt, the
 * next part. What waits has no verdict yet.
 */
export function ahead(view: StepView, waiting: Waiting[], me: Person | undefined): StepView {
  const mine = waiting.filter((w) => w.by === me?.login && w.step === view.step.id);
  if (mine.length === 0 || !me) return view;
  const gone = new Set(mine.map((w) => w.draft.supersedes).filter(Boolean));
  const said = mine.filter((w) => w.draft.act !== "strike").map((w, i) => asEntry(w, me, view.entries.length + i + 1));
  const entries = [...view.entries, ...said].map((e) => (gone.has(e.id) ? { ...e, superseded_by: "waiting" } : e));
  return {
    ...view,
    entries,
    ...(view.stack && { stack: view.stack.map((part) => partAhead(part, mine)) }),
    ...(view.measure && { measure: { ...view.measure, trials: trialsAhead(view.measure.trials, entries, gone) } }),
    ...(view.torque && { torque: torqueAhead(view.torque, entries) }),
  };
}

function asEntry(w: Waiting, me: Person, seq: number): EntryView {
  const { act, item, supersedes, value, ...said } = w.draft;
  const body = { ...said, ...(value !== undefined && (typeof value === "string" ? asTyped(value) : { value })) };
  const place = item ?? (act === "torqued" ? `p${w.draft.pass}.b${w.draft.bolt}` : undefined);
  return { id: w.key, hash: "", seq, step: w.step, by: me, at: new Date().toISOString(), act, body, ...(place && { item: place }), ...(supersedes && { supersedes }) };
}

/** A value as it was typed, and its number and unit where they are plain. */
function asTyped(typed: string) {
  const [, number, unit] = /^([-+]?\d+(?:\.\d+)?)\s*(\S+)$/.exec(typed) ?? [];
  return { typed, ...(number && unit && { value: { value: Number(number), unit } }) };
}

type Part = NonNullable<StepView["stack"]>[number];

function partAhead(part: Part, mine: Waiting[]): Part {
  const said = mine.filter((w) => w.draft.item === part.id);
  return said.reduce((p, { draft: d }) => {
    if (d.act === "removed") return { ...p, removed: d.outcome ?? "removed", not_found: d.outcome === "not-found", ...(d.tray && { tray: d.tray }), ...(d.faces && { seen: d.faces }) };
    if (d.act === "verdict") return { ...p, verdict: d.outcome ?? "" };
    if (d.act === "fitted") return { ...p, fitted: d.outcome ?? "fitted" };
    return p;
  }, part);
}

/** Readings that wait stand in the last trial. */
function trialsAhead(trials: Trial[], entries: EntryView[], gone: Set<string | undefined>): Trial[] {
  const last = trials.at(-1);
  if (!last) return trials;
  const said = entries.filter((e) => e.act === "reading" && e.hash === "" && !e.superseded_by) as Trial["readings"];
  return [...trials.slice(0, -1), { ...last, readings: [...last.readings.filter((e) => !gone.has(e.id)), ...said] }];
}

function torqueAhead(torque: TorqueView, entries: EntryView[]): TorqueView {
  const done = new Set(entries.filter((e) => e.act === "torqued" && !e.superseded_by).map((e) => e.item));
  const { next: _, ...rest } = torque;
  const next = torque.cells.find((c) => !done.has(`p${c.pass}.b${c.bolt}`));
  return { ...rest, ...(next && { next }) };
}
