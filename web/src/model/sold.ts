import { placed } from "./number";

/**
 * Parts as suppliers sell them: a kit says what it holds as people do, "seal, circlip x 2", by the parts'
 * ids.
 */

export type KnownPart = { id: string; name: string };
export type Held = { id: string; pieces: number };

/** What a kit holds, as its text says it. */
export const heldOf = (text: string): Held[] =>
  text
    .split(",")
    .map((x) => x.trim())
    .filter((x) => x !== "")
    .map((x) => {
      const [, id, n] = /^(.*?)(?:\s+x\s*(\d+))?$/.exec(x) ?? [];
      return { id: (id ?? x).trim(), pieces: placed(n ?? "1") };
    });

export const heldText = (held: readonly Held[]): string =>
  held.map((h) => (h.pieces === 1 ? h.id : `${h.id} x ${h.pieces}`)).join(", ");

/** What a part is called; one nobody knows goes by its id, without the hyphens. */
export const partNamed = (known: readonly KnownPart[], id: string): string =>
  known.find((p) => p.id === id)?.name ?? id.replaceAll("-", " ");

/** The id of a part that was typed by its name. */
export function idNamed(known: readonly KnownPart[], name: string): string {
  const said = name.trim().toLowerCase();
  return (
    known.find((p) => p.name.toLowerCase() === said)?.id ??
    said.replaceAll(/[^a-z0-9]+/g, "-").replaceAll(/^-|-$/g, "")
  );
}

/** A kit with so many pieces of a part more or less; none of it takes it out. */
export function holding(held: readonly Held[], id: string, pieces: number): Held[] {
  if (id === "") return [...held];
  const rest = held.filter((h) => h.id !== id);
  if (pieces < 1) return rest;
  return held.some((h) => h.id === id)
    ? held.map((h) => (h.id === id ? { id, pieces } : h))
    : [...rest, { id, pieces }];
}
