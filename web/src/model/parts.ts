import type { components } from "./schema.gen";

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

/**
 * A line as it is typed: "Fork nut M7 x 1.0, 2 pcs, Bolt shop, 2.50, 5 days, because the thread is pulled".
 * The name comes first; the rest in any order. "Send out:" and "Exchange:" before it say that it is no plain part.
 */
export function typedPart(text: string): OrderLine | undefined {
  const begun = /^\s*(send out|exchange)\s*:/i.exec(text);
  const kind = begun?.[1]?.toLowerCase() === "exchange" ? "exchange" : begun ? "sent-out" : undefined;
  const [name = "", ...rest] = text
    .slice(begun?.[0].length ?? 0)
    .split(/,(?!\d)/)
    .map((x) => x.trim());
  if (name === "") return undefined;
  const line: OrderLine = { name, ...(kind && { kind }) };
  for (const word of rest.filter(Boolean)) {
    const pieces = /^(\S+)\s*(?:pcs?|pieces?|x)$/i.exec(word)?.[1];
    const days = /^(\S+)\s*days?$/i.exec(word)?.[1];
    const deposit = /^deposit\s+(\d[\d.,  ]*)$/i.exec(word)?.[1];
    const money = /^\d[\d.,  ]*$/.exec(word)?.[0];
    const reason = /^because\s+(.+)$/i.exec(word)?.[1];
    if (pieces) line.pieces = pieces;
    else if (days) line.lead_days = days;
    else if (deposit) line.deposit = deposit;
    else if (money) line.price = money;
    else if (reason) line.reason = reason;
    else if (line.supplier === undefined) line.supplier = word;
    else line.reason = line.reason ? `${line.reason}, ${word}` : word;
  }
  return line;
}

/** What was understood of a typed line, to be read before it is kept. */
export function partWords(l: OrderLine): string {
  const words = [
    l.kind === "sent-out" ? "sent out" : l.kind === "exchange" ? "exchange unit" : "",
    `${l.pieces ?? 1} ${String(l.pieces ?? 1) === "1" ? "piece" : "pieces"}`,
    l.supplier ? `from ${l.supplier}` : "",
    l.price != null ? `for ${l.price}` : "",
    l.deposit != null ? `deposit ${l.deposit}` : "",
    l.lead_days != null ? `in ${l.lead_days} days` : "",
    l.reason ? `because ${l.reason}` : "",
  ];
  return words.filter(Boolean).join(", ");
}

/** What a line is held against as it comes in: the interfaces of the old part, or what was agreed as it went out. */
export const pairsOf = (l: PartLine) => [
  ...(l.sent ?? []).filter((x) => x.agreed).map((x) => ({ what: x.what, old: x.agreed ?? "", new: "" })),
  ...l.compare.map((what) => ({ what, old: "", new: "" })),
];
