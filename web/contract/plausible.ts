import type { components } from "../src/model/schema.gen";

type Schemas = components["schemas"];
type View = Schemas["StepView"];
export type Draft = Schemas["DraftIn"];
type Of<K extends View["kind"]> = Extract<View, { kind: K }>;
type Figures = Record<string, unknown>;

/** What a step often sees next, worked out from its view alone: as any program would that knows only the description. */
export function plausible(view: View): Draft | undefined {
  const next = unread(view, undefined) ?? figure(view) ?? kinds(view);
  return (next && unread(view, next)) ?? next;
}

/** A caution that has to be read before that. */
function unread(view: View, next: Draft | undefined): Draft | undefined {
  const items = view.kind === "check" || view.kind === "test" ? view.items : [];
  const line = next?.act === "outcome" ? items.find((i) => i.id === next.item) : undefined;
  const waits = [...view.cautions, ...(line?.cautions ?? [])].find(
    (c) => !c.by && (c.grave || view.kind === "caution"),
  );
  return waits && { act: "acknowledge", item: waits.id };
}

/** A figure of the sheet that nobody here knows, and the step waits for. */
function figure(view: View): Draft | undefined {
  const asked = view.figures?.find((f) => !f.entry && !f.may);
  return asked && { act: "figure", item: asked.path, origin: "not-known" };
}

function kinds(view: View): Draft | undefined {
  switch (view.kind) {
    case "check":
    case "test":
      return line(view);
    case "measure":
      return measured(view);
    case "stack":
      return part(view);
    case "torque":
      return bolt(view);
    case "fill":
      return filled(view);
    case "wait":
      return waited(view);
    case "decide":
      return decided(view);
    case "order":
      return came(view);
    case "photo":
      return { act: "photo", reason: "no camera at hand" };
    default:
      return undefined;
  }
}

function line(view: Of<"check"> | Of<"test">): Draft | undefined {
  const said = new Set(view.entries.filter((e) => !e.superseded_by).map((e) => e.item));
  const open = view.items.find((i) => !said.has(i.id));
  if (!open) return undefined;
  const at = { act: "outcome", item: open.id } as const;
  if (open.value) return { ...at, value: `${open.value === "count" ? 3 : 58} ${open.units?.[0] ?? ""}` };
  const good = open.answers.find((a) => a.good) ?? open.answers[0];
  return { ...at, ...(good && { outcome: good.id }) };
}

function measured(view: Of<"measure">): Draft {
  const trial = view.trials.at(-1);
  const answered = new Set(trial?.asked.map((e) => e.item?.replace(/^\d+\./, "")));
  // All may stay open, but not all do.
  const untried = trial?.asked.length === 0 && view.min_readings === 0 && view.asks[0]?.choices?.length;
  const open =
    view.asks.find((a) => !a.optional && !answered.has(a.id)) ?? (untried ? view.asks[0] : undefined);
  if (open) {
    const choice = open.choices?.[0];
    return {
      act: "reading",
      item: open.id,
      ...(choice ? { outcome: choice.id } : { value: middle(open.sheet, open.units?.[0] ?? "") }),
    };
  }
  if ((trial?.readings.length ?? 0) < view.min_readings)
    return {
      act: "reading",
      value: middle(view.limits, view.units[0] ?? ""),
      ...(view.instruments[0] && { instrument: view.instruments[0].id }),
    };
  return trial?.result === undefined ? { act: "reckon" } : { act: "accept", reason: "as good as it gets" };
}

/** A figure of the sheet, or the middle of its limits; quantities are objects or texts. */
function middle(figure: unknown, unit: string): string {
  if (typeof figure === "number") return `${figure} ${unit}`;
  if (typeof figure === "string") return figure;
  const { value, unit: its, min, max } = (figure ?? {}) as Figures;
  if (typeof value === "number") return `${value} ${String(its)}`;
  const [low, high] = [parts(min), parts(max)];
  if (low && high) return `${(low.value + high.value) / 2} ${high.unit}`;
  if (high) return `${high.value / 2} ${high.unit}`;
  return low ? `${low.value * 1.5} ${low.unit}` : `1 ${unit}`;
}

function parts(said: unknown): { value: number; unit: string } | undefined {
  if (typeof said === "string") {
    const [, n, unit] = /^(\S+) (.+)$/.exec(said) ?? [];
    return n && unit ? { value: Number(n), unit } : undefined;
  }
  return said as { value: number; unit: string } | undefined;
}

function part(view: Of<"stack">): Draft | undefined {
  const there = view.stack.filter((p) => !p.none);
  if (view.work === "remove") {
    const next = there.find((p) => !p.removed);
    return next && { act: "removed", item: next.id, outcome: "removed", tray: "tray A1" };
  }
  if (view.work === "inspect") {
    const next = there.find((p) => !p.verdict);
    const rule = next?.usual
      ? { outcome: next.usual, reason: next.rule ?? "was not there" }
      : { outcome: "reuse" };
    return next && { act: "verdict", item: next.id, ...rule };
  }
  const next = there.toReversed().find((p) => !p.fitted);
  return next && { act: "fitted", item: next.id, outcome: "fitted" };
}

function bolt({ torque, entries }: Of<"torque">): Draft {
  const { next } = torque;
  if (next) {
    const value = next.angle_deg ? `${next.angle_deg} °` : `${next.setting.value} ${next.setting.unit}`;
    return { act: "torqued", pass: next.pass, bolt: next.bolt, value };
  }
  const held = entries.find((e) => e.item === "check-round" && !e.superseded_by);
  return { act: "outcome", item: "check-round", outcome: "held", ...(held && { supersedes: held.id }) };
}

function filled(view: Of<"fill">): Draft {
  const fluid = view.fluids.find((f) => (view.chosen ? f.id === view.chosen : !f.forbids));
  return { act: "filled", outcome: fluid?.id ?? "", value: view.fill ? middle(view.fill, "L") : "1 L" };
}

function waited(view: Of<"wait">): Draft {
  if (!view.wait.started) return { act: "start", outcome: view.schools.find((s) => s.default)?.id ?? "" };
  return { act: "end", reason: "skinned, touched with a finger" };
}

function decided(view: Of<"decide">): Draft {
  const open = view.points?.find((p) => p.item && !p.answer);
  if (open?.item)
    return { act: "outcome", item: open.item, outcome: "answered", note: "looked at once more" };
  const choice = view.choices[0];
  return {
    act: "decision",
    outcome: choice?.id ?? "",
    ...(choice?.reason && { reason: "as it lay on the bench" }),
  };
}

function came(view: Of<"order">): Draft {
  const done = new Set(["here", "fitted", "not-needed"]);
  const lines = view.groups.flatMap((g) =>
    g.lines.filter((l) => l.asked && (!g.kit || l.line === g.kit) && !done.has(l.state)),
  );
  if (lines.length === 0) return { act: "decision", outcome: "nothing" };
  return { act: "came", lines: lines.map((l) => ({ line: l.line, outcome: "fits" })) };
}
