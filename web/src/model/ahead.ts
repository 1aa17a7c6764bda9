import { placeText } from "./place";
import type { Body, EntryView, Person, StackPart, StepView, TorqueView, Trial } from "./types";
import type { Waiting } from "./outbox";

/**
 * A step as it will be when the server has taken what waits: the next bolt, the
 * next part. What waits has no verdict yet.
 */
export function ahead(view: StepView, waiting: Waiting[], me: Person | undefined): StepView {
  const mine = waiting.filter((w) => w.by === me?.login && w.step === view.step.id);
  if (mine.length === 0 || !me) return view;
  const gone = new Set(mine.map((w) => w.draft.supersedes).filter(Boolean));
  const said = mine
    .filter((w) => w.draft.act !== "strike")
    .map((w, i) => asEntry(w, me, view.entries.length + i + 1));
  const entries = [...view.entries, ...said].map((e) =>
    gone.has(e.id) ? { ...e, superseded_by: "waiting" } : e,
  );
  const now = { ...view, entries };
  switch (now.kind) {
    case "stack":
      return { ...now, stack: now.stack.map((part) => partAhead(part, mine)) };
    case "measure":
      return { ...now, trials: trialsAhead(now.trials, entries, gone) };
    case "torque":
      return { ...now, torque: torqueAhead(now.torque, entries) };
    default:
      return now;
  }
}

function asEntry(w: Waiting, me: Person, seq: number): EntryView {
  const { act, item, supersedes, value, ...said } = w.draft;
  const body: Body = {
    ...said,
    ...(value !== undefined && (typeof value === "string" ? asTyped(value) : { value })),
  };
  const place = item ?? placeText({ pass: w.draft.pass ?? 0, bolt: w.draft.bolt ?? 0 });
  const says = [body.outcome, body.typed, body.note, body.reason].filter(Boolean).join(", ") || act;
  return {
    id: w.key,
    hash: "",
    seq,
    step: w.step,
    by: me,
    at: new Date().toISOString(),
    act,
    body,
    says,
    ...(place && { item: place }),
    ...(supersedes && { supersedes }),
  };
}

/** A value as it was typed, and its number and unit where they are plain. */
function asTyped(typed: string) {
  const [, number, unit] = /^([-+]?\d+(?:\.\d+)?)\s*(\S+)$/.exec(typed) ?? [];
  return { typed, ...(number && unit && { value: { value: Number(number), unit } }) };
}

function partAhead(part: StackPart, mine: Waiting[]): StackPart {
  const said = mine.filter((w) => w.draft.item === part.id);
  if (said.length === 0) return part;
  return said.reduce(
    (p, { draft: d }) => {
      if (d.act === "removed")
        return {
          ...p,
          removed: d.outcome ?? "removed",
          not_found: d.outcome === "not-found",
          ...(d.tray && { tray: d.tray }),
          ...(d.faces && { seen: d.faces }),
        };
      if (d.act === "verdict") return { ...p, verdict: d.outcome ?? "" };
      if (d.act === "fitted") return { ...p, fitted: d.outcome ?? "fitted" };
      return p;
    },
    { ...part, says: "waits for the server" },
  );
}

/** Readings that wait stand in the last trial. */
function trialsAhead(trials: Trial[], entries: EntryView[], gone: Set<string | undefined>): Trial[] {
  const last = trials.at(-1);
  if (!last) return trials;
  const said = entries.filter((e) => e.act === "reading" && e.hash === "" && !e.superseded_by);
  return [
    ...trials.slice(0, -1),
    { ...last, readings: [...last.readings.filter((e) => !gone.has(e.id)), ...said] },
  ];
}

function torqueAhead(torque: TorqueView, entries: EntryView[]): TorqueView {
  const done = new Set(entries.filter((e) => e.act === "torqued" && !e.superseded_by).map((e) => e.item));
  const { next: _, ...rest } = torque;
  const next = torque.cells.find((c) => !done.has(placeText(c)));
  return { ...rest, ...(next && { next }) };
}
