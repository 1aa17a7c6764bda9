import type { Waiting } from "./outbox";
import type { AnyDraft, Rebuild } from "./types";

/** The first letter large, as a sentence begins. */
export const begun = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** A refused entry in words: step, place, value, and why. */
export function refusalInWords(w: Waiting, error: unknown): string {
  const why = error instanceof Error ? error.message : String(error);
  return `${[w.title, placeInWords(w), valueInWords(w)].filter(Boolean).join(", ")}: ${why}`;
}

function placeInWords({ draft }: Waiting): string {
  const d: AnyDraft = draft;
  if (d.bolt !== undefined) return `bolt ${d.bolt}${d.pass === undefined ? "" : `, pass ${d.pass}`}`;
  return d.item ?? d.name ?? "";
}

function valueInWords({ draft }: Waiting): string {
  const d: AnyDraft = draft;
  if (typeof d.value === "string") return d.value;
  if (d.value) return `${d.value.value} ${d.value.unit}`;
  return d.outcome ?? d.note ?? d.reason ?? "";
}

/** Whose unit it is, as it is known now. */
/** A plate may be gone, and the customer not know it. */
export const serialOf = (unit: { serial: string }) =>
  unit.serial ? `serial ${unit.serial}` : "no serial number";

export const ownerOf = (r: Rebuild) => (r.whose?.erased ? "erased" : r.whose?.name || r.vehicle.owner);

/** What he said is wrong, and what he was told then: neither stands without the other. */
export const broughtFor = (r: { complaint: string; told?: string }) =>
  r.told ? `${r.complaint} He was told: ${r.told}` : r.complaint;
