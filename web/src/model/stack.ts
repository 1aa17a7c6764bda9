import type { FigureKnown } from "./asked";
import { has, said } from "./json";
import { placed } from "./number";
import type { components } from "./schema.gen";
import type { KnownPart } from "./sold";
import type { SheetPage } from "./types";

export type Part = components["schemas"]["Part"];

/** A stack as a sheet says it. */
export const partsOf = (value: unknown): Part[] =>
  Array.isArray(value) ? value.filter((p): p is Part => has(p, "id") && has(p, "name")) : [];

/** The parts a sheet knows by name: its own stacks, or else those of the book's routes. */
export function partsKnown(page: SheetPage): KnownPart[] {
  const own = Object.values(page.sheet.stacks ?? {}).flat();
  const all =
    own.length > 0
      ? own
      : page.figures
          .filter((f) => f.path.startsWith("stacks."))
          .flatMap((f) => (f.starts ?? []).flatMap((s) => partsOf(s.value)));
  return [...new Map(all.map((p) => [p.id, { id: p.id, name: p.name }])).values()];
}

/** What was typed of a part in one line, besides its name. */
export type TypedPart = {
  name: string;
  faces?: string;
  facing?: string;
  tray?: string;
  mark?: string;
  bolts?: string;
  shaft?: string;
  sub?: string;
  pieces?: number;
  value?: string;
};

const words: { is: RegExp; of: (found: string) => Partial<TypedPart> }[] = [
  { is: /^tray\s+(.+)$/i, of: (x) => ({ tray: `tray ${x}` }) },
  { is: /^marked\s+(.+)$/i, of: (mark) => ({ mark }) },
  { is: /^held by\s+(.+)$/i, of: (bolts) => ({ bolts }) },
  { is: /^on (?:the )?(.*shaft.*)$/i, of: (shaft) => ({ shaft }) },
  { is: /^in (?:the )?(.+)$/i, of: (sub) => ({ sub }) },
  { is: /^(\d+)\s*(?:pcs?|pieces?)$/i, of: (n) => ({ pieces: placed(n) }) },
  { is: /^(\d+(?:[.,]\d+)?\s*(?:mm|in|thou|µm))$/i, of: (value) => ({ value }) },
];

/**
 * A part in one line: "Thrust washer, oil grooves to the gear, faces rear, tray 3, on the layshaft, in the hub,
 * marked two dots, held by six bolts, 2 pcs, 1.52 mm": its name first, the rest in any order.
 */
export function typedWords(line: string): TypedPart | undefined {
  const [name = "", ...rest] = line.split(/,(?!\d)/).map((x) => x.trim());
  if (name === "") return undefined;
  const part: TypedPart = { name };
  const faces: string[] = [];
  for (const word of rest.filter(Boolean)) {
    const facing = /^faces (\w+)$/i.exec(word)?.[1]?.toLowerCase();
    const rule = words.find((r) => r.is.test(word));
    if (facing) part.facing = facing;
    else if (rule) Object.assign(part, rule.of(rule.is.exec(word)?.[1] ?? ""));
    else faces.push(word);
  }
  if (faces.length > 0) part.faces = faces.join(", ");
  return part;
}

/** What the fields of a part may be, where they are one of a few words. */
export type PartChoices = NonNullable<FigureKnown["choices"]>;

/** A typed part for a sheet; its shape is told by its name. */
export function typedPart(line: string, parts: readonly Part[], choices: PartChoices): Part | undefined {
  const typed = typedWords(line);
  if (!typed) return undefined;
  const { name, faces, bolts, shaft, sub, pieces } = typed;
  const facing = choices["facing"]?.find((way) => way === typed.facing);
  const shape = choices["shape"]?.find((s) => name.toLowerCase().includes(s));
  const once = shape === "seal";
  return {
    id: freeId(name, parts),
    name,
    ...said({ faces, facing, shape, once, bolts, shaft, sub, pieces }),
  };
}

function freeId(name: string, parts: readonly Part[]): string {
  const slug =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 50) || "part";
  const taken = new Set(parts.map((p) => p.id));
  let id = slug;
  for (let n = 2; taken.has(id); n++) id = `${slug}-${n}`;
  return id;
}

/** The parts with one of them a place further out or further in. */
export function moved(parts: readonly Part[], at: number, by: -1 | 1): Part[] {
  const to = at + by;
  const one = parts[at];
  const other = parts[to];
  if (!one || !other) return [...parts];
  return parts.map((p, i) => (i === at ? other : i === to ? one : p));
}

/** One part said otherwise; what says nothing goes. */
export const changed = (parts: readonly Part[], at: number, more: Partial<Part>): Part[] =>
  parts.map((p, i) => {
    if (i !== at) return p;
    const { id, name, ...rest } = { ...p, ...more };
    return { id, name, ...Object.fromEntries(Object.entries(rest).filter(([, v]) => v)) };
  });
