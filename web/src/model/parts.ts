import type { components } from "./schema.gen";
import { several } from "./several";

type S = components["schemas"];
export type PartLine = S["PartLine"];
export type PartsGroup = S["PartsGroup"];
export type OrderLine = S["OrderLineSent"];

/** What can be ordered now. */
export const isOpen = (l: PartLine) => l.asked && (l.state === "to-order" || l.state === "back");

/** The lines that are bought: a kit for those it brings. */
export const bought = (groups: readonly PartsGroup[]): PartLine[] =>
  groups.flatMap((g) => (g.kit ? g.lines.filter((l) => l.line === g.kit) : g.lines));

export type SupplierOrder = { supplier: string; lines: PartLine[]; lead: number | undefined };

/** What is to be ordered, a list for each supplier; those nobody offers come last, under no name. */
export function ordersOf(groups: readonly PartsGroup[]): SupplierOrder[] {
  const orders: SupplierOrder[] = [];
  for (const l of bought(groups).filter(isOpen)) {
    let o = orders.find((x) => x.supplier === l.supplier);
    if (!o) orders.push((o = { supplier: l.supplier, lines: [], lead: 0 }));
    o.lines.push(l);
    o.lead = o.lead === undefined || l.lead_days == null ? undefined : Math.max(o.lead, l.lead_days);
  }
  return [...orders.filter((o) => o.supplier !== ""), ...orders.filter((o) => o.supplier === "")];
}

/** A line of an order: what it costs goes along where it is known. */
export const orderLine = (l: PartLine): OrderLine => ({
  line: l.line,
  ...(l.price != null && { price: l.price }),
});

/** What each word of a typed line may be. */
const said: { is: RegExp; of: (found: string) => Partial<OrderLine> }[] = [
  { is: /^(\S+)\s*(?:pcs?|pieces?|x)$/i, of: (pieces) => ({ pieces }) },
  { is: /^(\S+)\s*days?$/i, of: (lead_days) => ({ lead_days }) },
  { is: /^deposit\s+(\d[\d.,  ]*)$/i, of: (deposit) => ({ deposit }) },
  { is: /^(\d[\d.,  ]*)$/, of: (price) => ({ price }) },
  { is: /^because\s+(.+)$/i, of: (reason) => ({ reason }) },
];

/** What a line is when it begins so: no plain part. */
const begins = [
  { is: /^\s*send out\s*:/i, kind: "sent-out" },
  { is: /^\s*exchange\s*:/i, kind: "exchange" },
] as const;

/**
 * A line as it is typed: "Fork nut M7 x 1.0, 2 pcs, Bolt shop, 2.50, 5 days, because the thread is pulled".
 * The name comes first; the rest in any order. "Send out:" and "Exchange:" before it say that it is no plain part.
 */
export function typedPart(text: string): OrderLine | undefined {
  const begun = begins.find((b) => b.is.test(text));
  const [name = "", ...rest] = text
    .replace(begun?.is ?? "", "")
    .split(/,(?!\d)/)
    .map((x) => x.trim());
  if (name === "") return undefined;
  const line: OrderLine = { name, ...(begun && { kind: begun.kind }) };
  for (const word of rest.filter(Boolean)) Object.assign(line, meant(word, line));
  return line;
}

/** What a word adds to a line: the first that is nothing else is who has it, later ones are reasons. */
function meant(word: string, line: OrderLine): Partial<OrderLine> {
  for (const s of said) {
    const found = s.is.exec(word)?.[1];
    if (found) return s.of(found);
  }
  if (line.supplier === undefined) return { supplier: word };
  return { reason: line.reason ? `${line.reason}, ${word}` : word };
}

/** What was understood of a typed line, to be read before it is kept. */
export function partWords(l: OrderLine): string {
  const words = [
    l.kind === "sent-out" ? "sent out" : l.kind === "exchange" ? "exchange unit" : "",
    several(l.pieces ?? 1, "piece"),
    l.supplier ? `from ${l.supplier}` : "",
    l.price != null ? `for ${l.price}` : "",
    l.deposit != null ? `deposit ${l.deposit}` : "",
    l.lead_days != null ? `in ${several(l.lead_days, "day")}` : "",
    l.reason ? `because ${l.reason}` : "",
  ];
  return words.filter(Boolean).join(", ");
}

/**
 * What a line is held against as it comes in: the interfaces of the old part, or what was agreed as it
 * went out.
 */
export const pairsOf = (l: PartLine) => [
  ...(l.sent ?? []).filter((x) => x.agreed).map((x) => ({ what: x.what, old: x.agreed ?? "", new: "" })),
  ...l.compare.map((what) => ({ what, old: "", new: "" })),
];
