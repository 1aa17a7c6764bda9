import { has } from "./json";
import { ofHundred, percent as shareOf } from "./number";
import { withUnit } from "./quantity";
import type { FigureView } from "./types";
import { bounds, ranges } from "./ways";

/** What the book knows of a figure, with the units it may be said in. */
export type FigureKnown = Pick<
  FigureView,
  "path" | "title" | "shape" | "unit" | "units" | "help" | "words" | "starts" | "texts" | "choices"
>;

/** What was typed for a figure: by the name of its field, "2.ratio" in a list. */
export type Typed = Record<string, string>;

/** One field to type in. */
export type Cell = { name: string; label: string };

/** The fields of a figure, in rows; a figure of one value has one row. */
export function fieldsOf(figure: FigureKnown, rows: readonly unknown[]): Cell[][] {
  switch (figure.shape) {
    case "limit":
      return [
        [
          { name: "min", label: "At least" },
          { name: "max", label: "At most" },
        ],
      ];
    case "fill":
      return [
        [
          { name: "min", label: "From" },
          { name: "max", label: "To" },
        ],
      ];
    case "torque":
      return [
        [
          { name: "bolts", label: "How many bolts" },
          { name: "torque", label: "Torque" },
          { name: "tolerance", label: "Tolerance ±, %" },
          { name: "angle_deg", label: "Then turned on by, ° (where it is)" },
        ],
      ];
    case "rows":
      return rows.map((row, i) =>
        flat(row)
          .filter(([name]) => name !== "id")
          .map(([name]) => ({ name: join(String(i), name), label: labelOf(name) })),
      );
    default:
      return [[{ name: "value", label: figure.title }]];
  }
}

const join = (row: string, name: string) => (name === "" ? row : `${row}.${name}`);

/** What people call the fields of structures, where the key does not say it. */
const labels = new Map<string, string>([
  ...ranges.map((r) => [r.id, r.title] as const),
  ...bounds.map((b) => [b.id, b.title] as const),
  ["says", "what it is"],
  ["lead_days", "days until it comes"],
  ["pack", "pieces in a pack"],
  ["holds", "what is in it"],
  ["compare", "held against the old"],
  ["mu", "friction"],
  ["outer_diameter", "outside"],
  ["inner_diameter", "inside"],
  ["clamp", "clamp load"],
  ["pressure_deg", "pressure angle, °"],
  ["spiral_deg", "spiral angle, °"],
  ["pitch_deg", "pitch angle, °"],
  ["rating", "torque it bears"],
  ["de", "outside"],
  ["di", "inside"],
  ["t", "thickness"],
  ["h0", "free height of the cone"],
]);

const labelOf = (name: string) =>
  name
    .split(".")
    .map((word) => labels.get(word) ?? word.replaceAll("_", " "))
    .join(", ");

/** A share, 0.12, is typed and shown of a hundred: 12. */
const isShare = (name: string) => /(^|\.)failure_chance\./.test(name);

/** A structure as its leaves by their paths: {a: {low: 1}} gives a.low. */
export function flat(value: unknown, at = ""): [string, unknown][] {
  if (typeof value !== "object" || value === null) return [[at, value]];
  return Object.entries(value).flatMap(([k, v]) => flat(v, at === "" ? k : `${at}.${k}`));
}

/** The rows of a start: of one structure, or of a list of them. */
export const rowsOf = (start: unknown): unknown[] => (Array.isArray(start) ? start : [start]);

/**
 * Rows with every field their figure may have, in its order: what a line does
 * not say yet may stay empty.
 */
export function whole(figure: FigureKnown, rows: readonly unknown[]): unknown[] {
  const like = rowsOf(startOf(figure, 0))[0];
  if (typeof like !== "object" || like === null || Array.isArray(like)) return [...rows];
  return rows.map((row) => {
    if (typeof row !== "object" || row === null) return row;
    const said: Record<string, unknown> = { ...row };
    const open = Object.entries(like).map(([k, v]) => [k, k in said ? said[k] : emptied(v)]);
    return { ...Object.fromEntries(open), ...said };
  });
}

const emptied = (pattern: unknown): unknown =>
  typeof pattern === "object" && pattern !== null
    ? Object.fromEntries(Object.entries(pattern).map(([k, v]) => [k, emptied(v)]))
    : "";

/** A field that need not be filled in. */
const isOptional = (pattern: unknown): boolean =>
  pattern === "" ||
  (typeof pattern === "object" && pattern !== null && Object.values(pattern).every((v) => isOptional(v)));

/** What stands in the fields of a start that says something already. */
export function typedOf(start: unknown): Typed {
  const typed: Typed = {};
  rowsOf(start).forEach((row, i) => {
    for (const [name, value] of flat(row))
      if (value !== null)
        typed[join(String(i), name)] = String(
          isShare(name) && typeof value === "number" ? ofHundred(value) : value,
        );
  });
  return typed;
}

/** The figure as the sheet would have it; undefined while something is missing. */
export function figureOf(
  figure: FigureKnown,
  typed: Typed,
  unit: string,
  start: unknown,
  rows: readonly unknown[],
  before?: unknown,
): unknown {
  const said = (name: string) => (typed[name] ?? "").trim();
  switch (figure.shape) {
    case "limit":
    case "fill":
      return between(figure.shape === "fill", said, unit);
    case "torque":
      return torqueOf(figure.title, said, unit, before);
    case "quantity":
      return said("value") ? withUnit(said("value"), unit) : undefined;
    case "yes-no":
      return said("value") ? said("value") === "yes" : undefined;
    case "rows":
      return structure(start, rows, said);
    default:
      return said("value") || undefined;
  }
}

type Said = (name: string) => string;

/** The two ends; of a limit one is enough. */
function between(both: boolean, said: Said, unit: string) {
  const ends = ["min", "max"].filter((end) => said(end));
  if (ends.length < (both ? 2 : 1)) return undefined;
  return Object.fromEntries(ends.map((end) => [end, withUnit(said(end), unit)]));
}

/** A group of bolts; what else it says, its passes, how its bolts lie, stays. */
function torqueOf(name: string, said: Said, unit: string, before: unknown) {
  const [bolts, tolerance] = [said("bolts"), shareOf(said("tolerance"))];
  if (!bolts || !said("torque") || !tolerance) return undefined;
  const rest = Object.fromEntries(Object.entries(objectOf(before)).filter(([k]) => k !== "angle_deg"));
  const turned = said("angle_deg") ? { angle_deg: said("angle_deg") } : {};
  return { name, ...rest, bolts, torque: withUnit(said("torque"), unit), tolerance, ...turned };
}

/** Whether a field of a structure is written in words, and so not on a keyboard of figures. */
export const isWord = (figure: FigureKnown, name: string): boolean =>
  (figure.texts ?? []).includes(name.split(".").at(-1) ?? "");

function structure(start: unknown, rows: readonly unknown[], said: (name: string) => string): unknown {
  const made = rows.map((row, i) => rebuilt(row, String(i), said));
  if (made.length === 0 || made.some((row) => row === undefined)) return undefined;
  return Array.isArray(start) ? made : made[0];
}

function rebuilt(pattern: unknown, at: string, said: (name: string) => string): unknown {
  if (typeof pattern !== "object" || pattern === null) return leaf(at, said(at));
  const out: Record<string, unknown> = {};
  for (const [k, v] of Object.entries(pattern)) {
    const x = rebuilt(v, `${at}.${k}`, said);
    if (x !== undefined) out[k] = x;
    else if (!isOptional(v) && k !== "id") return undefined; // an id is given by what the line is called
  }
  return Object.keys(out).length === 0 && isOptional(pattern) ? undefined : out;
}

function leaf(at: string, text: string): unknown {
  if (text === "") return undefined;
  return isShare(at) ? shareOf(text) : text;
}

/** The start that a structure begins with, when it has any. */
export const startOf = (figure: FigureKnown, at: number): unknown => {
  const start = figure.starts?.[at];
  return has(start, "value") ? start.value : undefined;
};

const objectOf = (value: unknown): object => (typeof value === "object" && value !== null ? value : {});

/** What a sheet says already, as it stands in the fields: "0.15 mm" is 0.15, in mm. */
export function saidOf(figure: FigureKnown, now: unknown): { typed: Typed; unit?: string; start?: unknown } {
  if (figure.shape === "rows") return { typed: typedOf(now), start: now };
  const typed: Typed = {};
  let unit: string | undefined;
  const put = (name: string, value: unknown) => {
    const text = textOf(value);
    const parted = /^([-+−]?[\d.,]+) (.+)$/.exec(text);
    const its = parted?.[2];
    if (parted?.[1] && its && (unit === undefined || unit === its) && figure.unit) {
      unit = its;
      typed[name] = parted[1];
    } else if (text) typed[name] = text;
  };
  const parts = Object.entries(objectOf(now));
  if (figure.shape === "yes-no") put("value", now === true ? "yes" : "no");
  else if (parts.length === 0 || has(now, "unit")) put("value", now);
  else for (const [name, value] of parts) if (fieldNamed(figure, name)) put(name, percent(name, value));
  return { typed, ...(unit && { unit }) };
}

const fieldNamed = (figure: FigureKnown, name: string) =>
  fieldsOf(figure, [])
    .flat()
    .some((c) => c.name === name);

const percent = (name: string, value: unknown) =>
  name === "tolerance" && typeof value === "number" ? ofHundred(value) : value;

function textOf(value: unknown): string {
  if (has(value, "value") && has(value, "unit")) return `${String(value.value)} ${String(value.unit)}`;
  return typeof value === "string" || typeof value === "number" ? String(value) : "";
}
