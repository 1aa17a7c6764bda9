import type { components } from "./schema.gen";

type S = components["schemas"];
type Observation = S["DrivelineObservation"];
type Out = S["DrivelineOut"];

const ways: Record<string, string> = {
  same: "goes along",
  opposite: "turns back",
  still: "stands",
  moves: "moves",
};

const feels: Record<string, string> = { light: "light", drags: "it drags", stands: "it stands fast" };

export const shaftWords = (name: string) => name.replaceAll("-", " ");

export const wayWords = (way: string) => ways[way] ?? way;

/** What was done: who turned what, with what held, what was in. */
export function doneWords(o: Observation): string {
  const turned = [o.turned, ...(o.with ?? [])].filter(Boolean).map(shaftWords).join(" and ");
  return [
    o.by === "engine"
      ? o.turned === "engine"
        ? "the engine drives"
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

/** What was seen or felt; the same words for what a sound line would show. */
export function seenWords(
  moved: readonly S["DrivelineMotion"][] | undefined,
  felt: string | undefined,
): string {
  const parts = (moved ?? []).map((m) => `${shaftWords(m.shaft)} ${wayWords(m.way)}`);
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
