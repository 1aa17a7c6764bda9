import { drawn, ofHundred, percent, placed } from "./number";
import type { components } from "./schema.gen";

/** A way as it is edited: what was typed stands in it as text. */
export type Way = components["schemas"]["DecisionOptionSent"];

/** The ranges of a way, as they are edited. */
export const ranges = [
  { id: "parts", title: "Parts", hangs: "the parts" },
  { id: "fluids", title: "Fluids", hangs: "the fluids" },
  { id: "outside", title: "Work sent out", hangs: "the outside work" },
  { id: "labour_hours", title: "Hours of work", hangs: "the hours" },
  { id: "waiting_days", title: "Days waiting", hangs: "the waiting" },
  { id: "failure_chance", title: "Has to be done again, of 100", hangs: "the chance of failure" },
  { id: "failure_cost", title: "Cost of redoing it", hangs: "the cost of a failure" },
] as const;

export type RangeId = (typeof ranges)[number]["id"];
export type Bound = "low" | "likely" | "high";

const isShare = (id: RangeId) => id === "failure_chance";

/** A bound as it stands in its field. */
export function boundText(way: Way, id: RangeId, bound: Bound): string {
  const v = way[id]?.[bound];
  if (v === undefined || v === null) return "";
  return isShare(id) && typeof v === "number" ? ofHundred(v) : String(v).replace(/ *%$/, "");
}

/** The ways with one bound said otherwise; a likely one that is empty goes. */
export function withBound(ways: readonly Way[], at: number, id: RangeId, bound: Bound, text: string): Way[] {
  if (text.trim() === "" && bound !== "likely") return [...ways];
  const value = isShare(id) ? percent(text) : text;
  return ways.map((w, i) => {
    if (i !== at) return w;
    const was = w[id] ?? { low: 0, high: 0 };
    const { likely: _, ...rest } = was;
    if (text.trim() === "") return { ...w, [id]: rest };
    return { ...w, [id]: { ...was, [bound]: value } };
  });
}

/** The bounds of a range, as the screen calls them. */
export const bounds = [
  { id: "low", title: "at least" },
  { id: "likely", title: "likely" },
  { id: "high", title: "at most" },
] as const;

/** What the screen calls a bound: options[0].parts.low is "Rebuild here, parts, at least". */
export function boundNamed(path: string, ways: readonly Way[]): string {
  const [, at, id, bound] = /^(?:options|figure)\[(\d+)\]\.(\w+)\.(\w+)$/.exec(path) ?? [];
  const range = ranges.find((r) => r.id === id);
  if (!range || !bound) return path;
  const title = bounds.find((b) => b.id === bound)?.title;
  return [ways[placed(at)]?.says, range.title.toLowerCase(), title].filter(Boolean).join(", ");
}

/** A way of one's own, as wide as the first to begin with. */
export function ownWay(ways: readonly Way[], says: string): Way[] {
  const like = ways[0];
  const name = says.trim();
  if (!like || name === "") return [...ways];
  let id = "own";
  for (let n = 2; ways.some((w) => w.id === id); n++) id = `own-${n}`;
  return [...ways, { ...like, id, says: name }];
}

/** The two ends of a range as they are typed, low and high; no number where there is none yet. */
export function spanOf(typed: Readonly<Record<string, string>>, at: string): [number, number] | undefined {
  const [low, high] = [drawn(typed[`${at}.low`]), drawn(typed[`${at}.high`])];
  return low !== undefined && high !== undefined && low <= high ? [low, high] : undefined;
}

/** A round scale for bars: its end, and where its lines stand. */
export function scale(most: number): { end: number; lines: number[] } {
  if (!(most > 0)) return { end: 1, lines: [0, 1] };
  const raw = most / 4;
  const ten = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 2.5, 5, 10].map((f) => f * ten).find((s) => s >= raw) ?? raw;
  const n = Math.ceil(most / step);
  return { end: n * step, lines: Array.from({ length: n + 1 }, (_, i) => i * step) };
}
