import type { AnyDraft } from "../model/types";
import type { Waiting } from "./outbox";

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
