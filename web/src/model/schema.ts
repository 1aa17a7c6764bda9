import { has } from "./json";

/** As much of a JSON Schema as a form goes by. */
export type Schema = {
  type?: string | string[];
  properties?: Record<string, Schema>;
  items?: Schema;
  enum?: readonly string[];
  required?: readonly string[];
  description?: string;
  "x-order"?: readonly string[];
};

/** What a form holds: everything typed is text, and read in Go. */
export type Value = string | boolean | Value[] | Fields;
export type Fields = { [field: string]: Value };

type Kind = "text" | "number" | "choice" | "yes-no" | "list" | "fields";

/** How a value is asked for: a quantity is typed with its unit, on one line. */
export function kindOf(s: Schema): Kind {
  const types = [s.type ?? []].flat().filter((t) => t !== "null");
  if (s.enum) return "choice";
  if (types.includes("array")) return "list";
  if (types.includes("boolean")) return "yes-no";
  if (types.includes("string"))
    return types.some((t) => t === "number" || t === "integer") ? "number" : "text";
  if (types.includes("object")) return "fields";
  return types.length > 0 ? "number" : "text";
}

/** The fields of an object, in the order in which a form asks for them. */
export const fieldsOf = (s: Schema): [string, Schema][] =>
  (s["x-order"] ?? Object.keys(s.properties ?? {})).flatMap((name) => {
    const field = s.properties?.[name];
    return field ? [[name, field] as [string, Schema]] : [];
  });

/** JSON as it stands in a form: a number and a quantity as people type them. */
export function asTyped(json: unknown): Value {
  if (typeof json === "boolean" || typeof json === "string") return json;
  if (json === null || json === undefined) return "";
  if (Array.isArray(json)) return json.map(asTyped);
  if (has(json, "value") && has(json, "unit")) return `${String(json.value)} ${String(json.unit)}`;
  return typeof json === "object"
    ? Object.fromEntries(Object.entries(json).map(([k, v]) => [k, asTyped(v)]))
    : String(json);
}

/** A value with nothing in it, for one more line of a list. */
export function blank(s: Schema): Value {
  switch (kindOf(s)) {
    case "list":
      return [];
    case "yes-no":
      return false;
    case "fields":
      return Object.fromEntries(
        fieldsOf(s).flatMap(([k, v]) => (s.required?.includes(k) ? [[k, blank(v)]] : [])),
      );
    default:
      return "";
  }
}

/** What a form sends: what was left empty is not said. */
export function said(value: Value): unknown {
  if (typeof value === "string") return value.trim() === "" ? undefined : value;
  if (Array.isArray(value)) return value.map(said).filter((v) => v !== undefined);
  if (typeof value !== "object") return value;
  const fields = Object.entries(value).flatMap(([k, v]): [string, unknown][] => {
    const x = said(v);
    return x === undefined ? [] : [[k, x]];
  });
  return fields.length === 0 ? undefined : Object.fromEntries(fields);
}

/** An object as a form holds it. */
export const asFields = (json: unknown): Fields => {
  const typed = asTyped(json);
  return typeof typed === "object" && !Array.isArray(typed) ? typed : {};
};
