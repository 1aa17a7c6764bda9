/**
 * What came in as JSON, taken for what the contract says it is: the server
 * keeps to it, and this is the one place where that is believed.
 */
export const believed = <T>(json: unknown): T => json as T;

/** The fields that say something; what is empty, unsaid or false is left out. */
export const said = <T extends object>(
  fields: T,
): { [K in keyof T]?: Exclude<T[K], undefined | null | false> } =>
  believed(Object.fromEntries(Object.entries(fields).filter(([, v]) => v)));

/** Whether JSON is an object with this field. */
export const has = <K extends string>(json: unknown, field: K): json is Record<K, unknown> =>
  typeof json === "object" && json !== null && field in json;

/** A text of JSON as an object; an empty one where it is none. */
export function record(text: string): Record<string, unknown> {
  try {
    const found: unknown = JSON.parse(text);
    return typeof found === "object" && found !== null ? { ...found } : {};
  } catch {
    return {};
  }
}
