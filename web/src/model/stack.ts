import { has } from "./json";
import type { components } from "./schema.gen";

export type Part = components["schemas"]["Part"];

/** The ways a part may face, as the book has them. */
export const facings = ["front", "rear", "up", "down", "left", "right", "in", "out", "either"];

/** How a part may be drawn along its shaft. */
export const shapes = [
  "nut",
  "flange",
  "seal",
  "cover",
  "bearing",
  "circlip",
  "fork",
  "sleeve",
  "washer",
  "gear",
  "rollers",
  "shaft",
  "disc",
  "plate",
  "spring",
  "flywheel",
];

/** A stack as a sheet says it. */
export const partsOf = (value: unknown): Part[] =>
  Array.isArray(value) ? value.filter((p): p is Part => has(p, "id") && has(p, "name")) : [];

/** A part typed in one line: "Thrust washer, oil grooves to the gear, faces rear"; its shape is told by its name. */
export function typedPart(line: string, parts: readonly Part[]): Part | undefined {
  const [name = "", ...rest] = line.split(",").map((x) => x.trim());
  if (name === "") return undefined;
  const facing = rest.map((x) => /^faces (\w+)$/.exec(x)?.[1]).find((f) => f && facings.includes(f));
  const faces = rest.filter((x) => !/^faces \w+$/.test(x)).join(", ");
  const shape = shapes.find((s) => name.toLowerCase().includes(s));
  return {
    id: freeId(name, parts),
    name,
    ...(faces && { faces }),
    ...(facing && { facing }),
    ...(shape && { shape }),
    ...(shape === "seal" && { once: true }),
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
    const next = { ...p, ...more };
    return {
      id: next.id,
      name: next.name,
      ...(next.faces && { faces: next.faces }),
      ...(next.facing && { facing: next.facing }),
      ...(next.fit && { fit: next.fit }),
      ...(next.shape && { shape: next.shape }),
      ...(next.once && { once: true }),
    };
  });
