import { placed } from "./number";
import type { Fields, Value } from "./schema";

/** The parts of a path: readings[2].reading is readings, 2, reading. */
export const partsOf = (path: string): string[] => path.split(/[.[\]]+/).filter((p) => p !== "");

/** A path as one says it: finals[1].teeth[0] is "finals 2, teeth 1". */
export const spoken = (path: string, words: (name: string) => string): string =>
  partsOf(path)
    .map((p) => (/^\d+$/.test(p) ? ` ${placed(p) + 1}` : `, ${words(p)}`))
    .join("")
    .replace(/^, /, "");

/** What stands at a path of JSON; undefined where nothing does. */
export function valueAt(json: unknown, path: string): unknown {
  let at: unknown = json;
  for (const part of partsOf(path)) {
    if (typeof at !== "object" || at === null) return undefined;
    at = Object.entries(at).find(([key]) => key === part)?.[1];
  }
  return at;
}

/** The same fields with another text at a path; a list grows by one at its end. */
export function withAt(fields: Fields, path: string, text: string): Fields {
  const [first = "", ...rest] = partsOf(path);
  return { ...fields, [first]: put(fields[first], rest, text) };
}

function put(was: Value | undefined, [part, ...rest]: string[], text: string): Value {
  if (part === undefined) return text;
  if (/^\d+$/.test(part)) {
    const list = Array.isArray(was) ? [...was] : [];
    const i = Math.min(list.length, placed(part));
    list[i] = put(list[i], rest, text);
    return list;
  }
  const fields = typeof was === "object" && !Array.isArray(was) ? was : {};
  return { ...fields, [part]: put(fields[part], rest, text) };
}
