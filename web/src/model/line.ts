import { drawn, placed } from "./number";
import { flat, type Typed } from "./asked";
import type { components } from "./schema.gen";

export type Member = components["schemas"]["DrivelineMember"];

/** Kinds of member, as one would say them. */
export const kindWords: Record<string, string> = {
  shaft: "shaft",
  joint: "propshaft",
  gear: "gears",
  clutch: "clutch",
  one_way: "freewheel",
  viscous: "viscous coupling",
  differential: "differential",
};

const patterns: Record<string, Record<string, null>> = {
  gear: { id: null, says: null, kind: null, a: null, b: null, ratio: null },
  differential: { id: null, says: null, kind: null, carrier: null, a: null, b: null },
};
const plain = { id: null, says: null, kind: null, a: null, b: null };

/** The members that are being typed, as far as they can be drawn. */
export function membersOf(rows: readonly unknown[], typed: Typed): Member[] {
  return rows.map((row, i) => {
    const said = Object.fromEntries(flat(row).map(([name]) => [name, (typed[`${i}.${name}`] ?? "").trim()]));
    const ratio = drawn(said["ratio"]);
    return {
      id: said["id"] || `member-${i + 1}`,
      says: said["says"] || said["id"] || "",
      kind: said["kind"] || "shaft",
      a: said["a"] || `${i}-a`,
      b: said["b"] || `${i}-b`,
      ...(said["carrier"] && { carrier: said["carrier"] }),
      ...(said["kind"] === "gear" && ratio && ratio > 0 && { ratio }),
      ...(said["engaged_by"] && { engaged_by: said["engaged_by"] }),
    };
  });
}

/** A name nobody has, taken. */
function free(name: string, taken: Set<string>): string {
  let n = 1;
  while (taken.has(n === 1 ? name : `${name}-${n}`)) n++;
  const found = n === 1 ? name : `${name}-${n}`;
  taken.add(found);
  return found;
}

/** Row and words of a member more, hung on a shaft. */
export function hung(rows: readonly unknown[], typed: Typed, shaft: string, kind: string) {
  const members = membersOf(rows, typed);
  const ids = new Set(members.map((m) => m.id));
  const shafts = new Set(members.flatMap((m) => [m.a, m.b, m.carrier ?? ""]));
  const id = free(`${shaft}-${kind.replace("_", "-")}`, ids);
  const said: Typed =
    kind === "differential"
      ? { carrier: shaft, a: free(`${shaft}-left`, shafts), b: free(`${shaft}-right`, shafts) }
      : { a: shaft, b: free(`${shaft}-out`, shafts) };
  const i = rows.length;
  const more: Typed = { id, says: `${kindWords[kind] ?? kind} at ${shaft}`, kind, ...said };
  return {
    rows: [...rows, patterns[kind] ?? plain],
    typed: { ...typed, ...Object.fromEntries(Object.entries(more).map(([k, v]) => [`${i}.${k}`, v])) },
  };
}

/** Rows and words without one of them. */
export function without(rows: readonly unknown[], typed: Typed, at: number) {
  const moved = Object.entries(typed).flatMap(([name, text]): [string, string][] => {
    const [row = "", ...rest] = name.split(".");
    const i = placed(row);
    if (i === at) return [];
    return [[[i > at ? i - 1 : i, ...rest].join("."), text]];
  });
  return { rows: rows.filter((_, i) => i !== at), typed: Object.fromEntries(moved) };
}

/** A shaft called otherwise, wherever it is named. */
export function renamed(rows: readonly unknown[], typed: Typed, from: string, to: string): Typed {
  const names = new Set(rows.flatMap((_, i) => ["a", "b", "carrier"].map((k) => `${i}.${k}`)));
  return Object.fromEntries(Object.entries(typed).map(([k, v]) => [k, names.has(k) && v === from ? to : v]));
}
