import { has } from "../../model/json";
import type { components } from "../../model/schema.gen";

export type ChainLink = components["schemas"]["ChainLink"];
export type ChainPart = components["schemas"]["ChainPart"];

/** A chain as it was kept while it was typed. */
export function chainOf(kept: string): ChainLink[] {
  try {
    const list: unknown = JSON.parse(kept);
    return Array.isArray(list) ? list.filter((x): x is ChainLink => has(x, "name")) : [];
  } catch {
    return [];
  }
}

/** The chain with a part at its end, or without it when it is in there. */
export function toggled(chain: readonly ChainLink[], part: ChainPart): ChainLink[] {
  const rest = chain.filter((l) => l.part !== part.part);
  return rest.length < chain.length ? rest : [...chain, { part: part.part, name: part.name }];
}

/** The chain with one link a place sooner. */
export function sooner(chain: readonly ChainLink[], at: number): ChainLink[] {
  const one = chain[at];
  const before = chain[at - 1];
  if (!one || !before) return [...chain];
  return chain.map((l, i) => (i === at - 1 ? one : i === at ? before : l));
}

/** The chain as a sentence. */
export function chainWords(chain: readonly ChainLink[]): string {
  if (chain.length === 0) return "";
  const said = (l: ChainLink) => l.name + (l.how ? ` (${l.how})` : "");
  const [first, ...rest] = chain.map(said);
  return rest.length === 0 ? `First: ${first}.` : `First: ${first}. That damaged ${rest.join(", ")}.`;
}

/** What is offered first: the damaged parts, or the first few where none is. */
export function offered(parts: readonly ChainPart[], all: boolean): ChainPart[] {
  if (all) return [...parts];
  const hurt = parts.filter((p) => p.verdict && p.verdict !== "reuse");
  return hurt.length > 0 ? hurt : parts.slice(0, 6);
}
