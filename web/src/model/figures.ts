import { isWhole } from "./number";
import { isQuantity, say } from "./quantity";
import type { Units } from "./types";

/** Says the figures of any result: their names by the catalogue's words, their values as people write them. */
export function inWords(words: (key: string) => string, units: Units) {
  const value = (v: unknown): string => {
    if (v === undefined || v === null) return "";
    if (isQuantity(v)) return say(v, units, 1);
    if (typeof v === "number") return sayBare(v);
    if (typeof v === "boolean") return v ? "yes" : "no";
    if (Array.isArray(v)) return v.map(value).join("; ");
    if (typeof v !== "object") return String(v);
    return Object.entries(v)
      .filter(([, x]) => x !== undefined && x !== null)
      .map(([k, x]) => (k === "size" || k === "says" ? value(x) : `${words(k)} ${value(x)}`))
      .join(", ");
  };
  return { words, value };
}

function sayBare(v: number): string {
  const text = isWhole(v) ? String(v) : Math.abs(v) >= 100 ? String(Math.round(v)) : v.toPrecision(3);
  return text.replace("-", "−");
}
