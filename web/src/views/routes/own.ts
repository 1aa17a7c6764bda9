import { drawn } from "../../model/number";
import type { OwnRoute, RouteLine, RoutePage } from "../../model/types";

export type OwnStep = NonNullable<OwnRoute["steps"]>[string];
export type Added = NonNullable<OwnRoute["added"]>[number];

/** A line of a route as the shop goes it: a step of the book, or a piece that was put in. */
export type Line =
  | { what: "step"; step: RouteLine; own: OwnStep }
  | { what: "piece"; piece: Added; titles: readonly string[]; at: number };

/** The lines of a station, pieces behind the steps they stand behind. */
export function linesOf(page: RoutePage, own: OwnRoute, station: string): Line[] {
  const steps = page.stations.find((s) => s.id === station)?.steps ?? [];
  return steps.flatMap((step): Line[] => [
    { what: "step", step, own: own.steps?.[step.id] ?? {} },
    ...(own.added ?? [])
      .map((piece, at): Line => ({ what: "piece", piece, titles: titlesOf(page, piece), at }))
      .filter((l) => l.what === "piece" && l.piece.behind === step.id),
  ]);
}

const titlesOf = (page: RoutePage, a: Added) =>
  page.pieces.find((p) => p.id === a.fragment)?.steps ?? [a.fragment];

/** What is otherwise at a step said anew; what says nothing goes. */
export function withStep(own: OwnRoute, id: string, change: OwnStep): OwnRoute {
  const said = Object.fromEntries(
    Object.entries({ ...own.steps?.[id], ...change }).filter(([, v]) => v !== "" && v !== false && v !== 0),
  );
  const steps = Object.fromEntries(
    [...Object.entries(own.steps ?? {}).filter(([k]) => k !== id), [id, said] as const].filter(
      ([, v]) => Object.keys(v).length > 0,
    ),
  );
  return { ...own, steps };
}

/** A piece put in behind a step, under a name nobody has. */
export function withPiece(page: RoutePage, own: OwnRoute, fragment: string, behind: string): OwnRoute {
  const taken = new Set([
    ...page.stations.flatMap((s) => s.steps.map((x) => x.id)),
    ...(own.added ?? []).map((a) => a.as ?? a.fragment),
  ]);
  let as = fragment;
  for (let n = 2; taken.has(as); n++) as = `${fragment}-${n}`;
  return { ...own, added: [...(own.added ?? []), { fragment, behind, as }] };
}

/** A piece's word said otherwise; empty is what the book says. */
export const withWord = (own: OwnRoute, at: number, word: string, text: string): OwnRoute => ({
  ...own,
  added: (own.added ?? []).map((a, i) => {
    if (i !== at) return a;
    const { [word]: _, ...rest } = a.with ?? {};
    return { ...a, with: text === "" ? rest : { ...rest, [word]: text } };
  }),
});

export const withoutPiece = (own: OwnRoute, at: number): OwnRoute => ({
  ...own,
  added: (own.added ?? []).filter((_, i) => i !== at),
});

/** Minutes of the steps that go, as far as the shop says them. */
export const minutesOf = (own: OwnRoute) =>
  Object.values(own.steps ?? {}).reduce((sum, s) => sum + (s.left_out ? 0 : (drawn(s.minutes) ?? 0)), 0);

const bare = (own: OwnRoute) =>
  JSON.stringify([
    own.unused ?? false,
    Object.entries(own.steps ?? {}).toSorted(([a], [b]) => a.localeCompare(b)),
    own.added ?? [],
  ]);

export const same = (a: OwnRoute, b: OwnRoute) => bare(a) === bare(b);
