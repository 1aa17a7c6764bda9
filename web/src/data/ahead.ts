import { believed } from "../model/json";
import { placeText } from "../model/place";
import { asQuantity } from "../model/quantity";
import type {
  AnyDraft,
  Body,
  EntryView,
  Person,
  Quantity,
  StackPart,
  StepView,
  TorqueView,
  Trial,
} from "../model/types";
import type { Landed, Waiting } from "./outbox";

type Ahead = Waiting | Landed;

/** What an entry is called: by the record, and before it is there by its key. */
const nameOf = (w: Ahead) => ("id" in w ? w.id : w.key);

/**
 * A step as it will be when the server has taken what waits: the next bolt, the
 * next part, so that the next key finds it. What waits has no verdict yet.
 */
export function ahead(view: StepView, said: readonly Ahead[], me: Person | undefined): StepView {
  const there = new Set(view.entries.map((e) => e.id));
  const mine = said.filter((w) => w.by === me?.login && w.step === view.step.id && !there.has(nameOf(w)));
  if (mine.length === 0 || !me) return view;
  const gone = new Set(mine.map((w) => w.draft.supersedes).filter(Boolean));
  const more = mine
    .filter((w) => w.draft.act !== "strike")
    .map((w, i) => asEntry(w, me, view.entries.length + i + 1));
  const entries = [...view.entries, ...more].map((e) =>
    gone.has(e.id) ? { ...e, superseded_by: "waiting" } : e,
  );
  const now = { ...opened({ ...view, entries }, mine, me) };
  switch (now.kind) {
    case "stack":
      return { ...now, stack: now.stack.map((part) => partAhead(part, mine)) };
    case "measure":
      return { ...now, trials: trialsAhead(now.trials, entries, gone) };
    case "torque":
      return { ...now, torque: torqueAhead(now.torque, entries) };
    case "decide":
      return { ...now, ...(now.points && { points: now.points.map((p) => pointAhead(p, mine)) }) };
    default:
      return now;
  }
}

/** What the lead answers before the signature; its field is gone before the next key comes. */
function pointAhead<P extends { item?: string; answer?: string }>(point: P, mine: readonly Ahead[]): P {
  const w = mine.findLast((x) => x.draft.act === "outcome" && x.draft.item === point.item);
  const said: AnyDraft | undefined = w?.draft;
  return said?.note ? { ...point, answer: said.note } : point;
}

/** What was read, said in the sheet's place or opened stands in no one's way any more. */
function opened(view: StepView, mine: readonly Ahead[], me: Person): StepView {
  const read = (id: string) => mine.some((w) => w.draft.act === "acknowledge" && w.draft.item === id);
  const cautions = view.cautions.map((c) => (read(c.id) ? { ...c, by: me.name } : c));
  const figures = view.figures?.map((f) => {
    const w = mine.findLast((x) => x.draft.act === "figure" && x.draft.item === f.path);
    if (!w) return f;
    const origin = w.draft.act === "figure" ? w.draft.origin : undefined;
    return {
      ...f,
      entry: nameOf(w),
      step: view.step.id,
      by: me.name,
      says: f.title,
      ...(origin && { origin }),
    };
  });
  const open = view.status === "locked" && mine.some((w) => w.draft.act === "override");
  return { ...view, cautions, ...(figures && { figures }), ...(open && { status: "open" as const }) };
}

function asEntry(w: Ahead, me: Person, seq: number): EntryView {
  const draft: AnyDraft = w.draft;
  const { act, item, supersedes, value, pack, ...said } = draft;
  const body = believed<Body>({
    ...said,
    ...(pack && { pack: pack.map((p) => ({ ...p, thickness: sizeOf(p.thickness) })) }),
    ...(value !== undefined && (typeof value === "string" ? asTyped(value) : { value })),
  });
  const place = item ?? placeText({ pass: draft.pass ?? 0, bolt: draft.bolt ?? 0 });
  const says = [body.outcome, body.typed, body.note, body.reason].filter(Boolean).join(", ") || act;
  return {
    id: nameOf(w),
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
const sizeOf = (said: Quantity | string) =>
  typeof said === "string" ? (asQuantity(said) ?? { value: NaN, unit: "" }) : said;

function asTyped(typed: string) {
  const value = asQuantity(typed);
  return { typed, ...(value && { value }) };
}

function partAhead(part: StackPart, mine: readonly Ahead[]): StackPart {
  const said = mine.filter((w) => w.draft.item === part.id);
  if (said.length === 0) return part;
  return said.reduce(
    (p, { draft: d }) => {
      if (d.act === "removed")
        return {
          ...p,
          removed: d.outcome ?? "removed",
          not_found: d.outcome === "not-found",
          none: d.outcome === "none",
          ...(d.tray && { tray: d.tray }),
          ...(d.faces && { seen: d.faces }),
        };
      if (d.act === "verdict") return { ...p, verdict: d.outcome ?? "", none: d.outcome === "none" };
      if (d.act === "fitted") return { ...p, fitted: d.outcome ?? "fitted" };
      return p;
    },
    { ...part, says: "waits for the server" },
  );
}

/** What waits stands in its trial: readings, answers, that something was changed, that it stays as it is. */
function trialsAhead(trials: Trial[], entries: EntryView[], gone: Set<string | undefined>): Trial[] {
  const all = trials.map((t) => standingIn(t, gone));
  for (const e of entries.filter((x) => x.hash === "" && !x.superseded_by)) {
    const last = all.at(-1);
    if (!last) continue;
    const fresh = last.readings.length + last.asked.length === 0;
    if (e.act === "again" || (e.act === "fit" && !fresh)) all.push(trialAfter(last, e));
    else all.splice(-1, 1, trialWith(last, e));
  }
  return all;
}

const trialAfter = (last: Trial, e: EntryView): Trial => ({
  number: last.number + 1,
  readings: [],
  asked: [],
  pack: e.body.pack ?? last.pack,
  changed: e.body.reason ?? "",
});

const standingIn = (t: Trial, gone: Set<string | undefined>): Trial => ({
  ...t,
  readings: t.readings.filter((e) => !gone.has(e.id)),
  asked: t.asked.filter((e) => !gone.has(e.id)),
});

function trialWith(t: Trial, e: EntryView): Trial {
  if (e.act === "accept") return { ...t, accepted: e.body.reason ?? "" };
  if (e.act === "fit") return { ...t, pack: e.body.pack ?? t.pack };
  if (e.act !== "reading") return t;
  return e.item ? { ...t, asked: [...t.asked, e] } : { ...t, readings: [...t.readings, e] };
}

function torqueAhead(torque: TorqueView, entries: EntryView[]): TorqueView {
  const done = new Set(entries.filter((e) => e.act === "torqued" && !e.superseded_by).map((e) => e.item));
  const { next: _, ...rest } = torque;
  const next = torque.cells.find((c) => !done.has(placeText(c)));
  const held = entries.some((e) => e.act === "outcome" && !e.superseded_by && e.body.outcome === "held");
  return { ...rest, ...(next && { next }), ...(held && { held }) };
}
