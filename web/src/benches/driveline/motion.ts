import type { components } from "../../model/schema.gen";

type S = components["schemas"];
type Observation = S["DrivelineObservation"];
export type Observed = Observation;
type Out = S["DrivelineOut"];

const ways: Record<string, string> = {
  same: "turns the same way",
  opposite: "turns back",
  still: "stays still",
  moves: "moves",
};

const feels: Record<string, string> = { light: "light", drags: "it drags", stands: "it will not turn" };

export const shaftWords = (name: string) => name.replaceAll("-", " ");

export const wayWords = (way: string) => ways[way] ?? way;

/** What was done: who turned what, with what held, what was in. */
export function doneWords(o: Observation): string {
  const turned = [o.turned, ...(o.with ?? [])].filter(Boolean).map(shaftWords).join(" and ");
  return [
    o.by === "engine"
      ? o.turned === "engine"
        ? "engine driving"
        : `${turned} driven by the engine`
      : `${turned} turned by hand`,
    o.engine === "on" && o.by !== "engine" && "engine on",
    o.held?.length ? `${o.held.map(shaftWords).join(" and ")} held` : "",
    o.locks?.length ? `${o.locks.map(shaftWords).join(" and ")} in` : "",
    o.ground?.length ? "wheels on the ground" : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** What was seen or felt, as far as it was said; the same words for what a sound line would show. */
export function seenWords(
  moved: readonly Partial<S["DrivelineMotion"]>[] | undefined,
  felt: string | undefined,
): string {
  const said = (moved ?? []).flatMap(({ shaft, way }) => (shaft && way ? { shaft, way } : []));
  const parts = said.map((m) => `${shaftWords(m.shaft)} ${wayWords(m.way)}`);
  if (felt) parts.push(feels[felt] ?? felt);
  return parts.join(", ");
}

/** In how many of the explanations a member is. */
export function suspects(out: Out): Map<string, number> {
  const count = new Map<string, number>();
  const named = out.singles.length > 0 ? out.singles.map((f) => [f]) : out.doubles;
  for (const together of named) {
    for (const f of together) count.set(f.member, (count.get(f.member) ?? 0) + 1);
  }
  return count;
}

/** The explanations as one says them, the simple ones first. */
export const explanations = (out: Out): string[] => [
  ...out.singles.map((f) => f.says),
  ...out.doubles.map((pair) => pair.map((f) => f.says).join(", and ")),
];

/** What is being put together by touch: nothing turned yet. */
export const untouched: Observation = { turned: "" };

/** What can be said of a shaft or a wheel. */
export const touches = [
  { id: "turned", text: "turned by hand" },
  { id: "held", text: "held" },
  { id: "same", text: "turns the same way" },
  { id: "opposite", text: "turns back" },
  { id: "still", text: "stays still" },
] as const;

export type Touched = (typeof touches)[number]["id"];

const without = (list: readonly string[] | undefined, name: string) => (list ?? []).filter((x) => x !== name);

/** What was said of a shaft so far. */
export function touchedAs(o: Observation, name: string): Touched | undefined {
  if (o.turned === name || o.with?.includes(name)) return "turned";
  if (o.held?.includes(name)) return "held";
  const way = o.moved?.find((m) => m.shaft === name)?.way;
  return touches.find((t) => t.id === way)?.id;
}

/** The observation with something said of a shaft, or taken back when it was said already. */
export function touch(o: Observation, name: string, as: Touched): Observation {
  const was = touchedAs(o, name);
  const turned = [o.turned, ...(o.with ?? [])].filter((x) => x && x !== name);
  const rest = {
    ...o,
    held: without(o.held, name),
    moved: (o.moved ?? []).filter((m) => m.shaft !== name),
  };
  const all = as === "turned" && was !== "turned" ? [...turned, name] : turned;
  const next: Observation = { ...rest, turned: all[0] ?? "", with: all.slice(1) };
  if (was === as || as === "turned") return next;
  if (as === "held") return { ...next, held: [...(next.held ?? []), name] };
  return { ...next, moved: [...(next.moved ?? []), { shaft: name, way: as }] };
}

/** A name put in or taken out of a list of the observation: locks that are in, wheels on the ground. */
export function toggled(o: Observation, list: "locks" | "ground", name: string): Observation {
  const now = o[list] ?? [];
  return { ...o, [list]: now.includes(name) ? without(now, name) : [...now, name] };
}

/** The observation as it is kept, with its words; undefined while nothing is turned or nothing was seen. */
export function observed(o: Observation): Observation | undefined {
  if (o.turned === "" || (!o.felt && (o.moved ?? []).length === 0)) return undefined;
  const full = Object.fromEntries(
    Object.entries(o).filter(([, v]) => (Array.isArray(v) ? v.length > 0 : Boolean(v))),
  );
  return { ...full, turned: o.turned, says: `${doneWords(o)}: ${seenWords(o.moved, o.felt)}` };
}

/** The locks of a line that somebody may put in. */
export const locksOf = (members: readonly S["DrivelineMember"][]): string[] => [
  ...new Set(members.map((m) => m.engaged_by ?? "").filter((l) => l !== "" && !l.startsWith("engine_"))),
];
