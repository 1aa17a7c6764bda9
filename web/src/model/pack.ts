import { millimetres } from "./drawn";
import { placed } from "./number";
import { withUnit } from "./quantity";
import type { components } from "./schema.gen";
import type { Quantity } from "./types";

type S = components["schemas"];
export type Packs = S["PacksView"];

/**
 * A pack as it is typed: "0.54 + 2 x 0.30". What the drawer holds comes out of it; what was found in
 * place, and a size the drawer does not know, does not. Undefined while a size is missing.
 */
export function typedPack(
  text: string,
  unit: string,
  stock: Packs["stock"],
  found: boolean,
): { thickness: string; count: number; loose?: true }[] | undefined {
  const sizes = text.split("+").map((part) => /^\s*(?:(\d{1,2})\s*[x×]\s*)?(.*\d.*?)\s*$/.exec(part));
  const pack = sizes.map((m) => {
    const thickness = withUnit(m?.[2] ?? "", unit);
    const held = stock.map((s) => `${s.thickness.value} ${s.thickness.unit}`).find((s) => same(s, thickness));
    return {
      thickness: held ?? thickness,
      count: placed(m?.[1] ?? "1"),
      ...((found || !held) && { loose: true as const }),
    };
  });
  if (sizes.includes(null)) return undefined;
  // One size is one line, however it was typed.
  return pack.filter((p, i) => {
    const first = pack.findIndex((x) => x.thickness === p.thickness);
    if (first === i) return true;
    const before = pack[first];
    if (before) before.count += p.count;
    return false;
  });
}

/** One thickness, whatever unit and however many zeros it is written with. */
const same = (a: string, b: string) => Math.abs((millimetres(a) ?? -1) - (millimetres(b) ?? -2)) < 1e-7;

const plain = (q: Quantity) => `${q.value} ${q.unit}`;

/** A pack in words: "2 × 0.3 mm + 0.54 mm"; each thickness as it was said, or as say says it. */
export const packWords = (pack: readonly { count: number; thickness: Quantity }[], say = plain) =>
  pack.map((p) => `${p.count > 1 ? `${p.count} × ` : ""}${say(p.thickness)}`).join(" + ");

/** Pieces of several packs as one, each size once. */
export function merged<P extends { count: number; thickness: Quantity }>(pieces: readonly P[]) {
  const sizes = new Map<string, { thickness: Quantity; count: number }>();
  for (const { thickness, count } of pieces) {
    const size = plain(thickness);
    sizes.set(size, { thickness, count: count + (sizes.get(size)?.count ?? 0) });
  }
  return [...sizes.values()];
}

/** The id of a drawer that is begun by a name, and none that another has. */
export function drawerNamed(title: string, all: readonly { id: string; title: string }[]): string {
  const there = all.find((d) => d.title.toLowerCase() === title.trim().toLowerCase());
  if (there) return there.id;
  const plain = title
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, "-")
    .replaceAll(/^[-0-9]+|-+$/g, "")
    .slice(0, 34);
  const id = plain || "drawer";
  const taken = all.filter((d) => d.id.startsWith(id)).length;
  return taken === 0 ? id : `${id}-${taken + 1}`;
}

/** Lines of a count as they are typed: a size and how many. */
export function typedCount(text: string): { lines: { size: string; count: string }[]; typed: number } {
  const rows = text.split("\n").filter((l) => l.trim() !== "");
  const lines = rows
    .map((l) => /^\s*(.+?)[\s;x×,]+(-?\d+)\s*$/.exec(l))
    .flatMap((m) => (m?.[1] && m[2] ? [{ size: m[1], count: m[2] }] : []));
  return { lines, typed: rows.length };
}
