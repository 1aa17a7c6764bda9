/**
 * What is typed and not taken yet: kept under person, rebuild, step and place,
 * so that it survives a reload and stands nowhere but where it was meant.
 */
const prefix = "handwerk.kept.";

type Store = Pick<Storage, "getItem" | "setItem" | "removeItem" | "key" | "length">;

/** The name of a draft; parts are joined so that none can run into the next. */
export const placeOf = (...parts: string[]) => parts.map(encodeURIComponent).join("/");

export function readDraft(place: string, store: Store = localStorage): string | undefined {
  return store.getItem(prefix + place) ?? undefined;
}

/** Keeps a draft; nothing typed, or what stands there anyway, is not kept. */
export function keepDraft(place: string, value: string, initial = "", store: Store = localStorage) {
  if (value === "" || value === initial) store.removeItem(prefix + place);
  else store.setItem(prefix + place, value);
}

/** Drafts left below a place: the last part of each name, and what was typed. */
export function draftsBelow(place: string, store: Store = localStorage): { at: string; value: string }[] {
  const found: { at: string; value: string }[] = [];
  for (let i = 0; i < store.length; i++) {
    const name = store.key(i) ?? "";
    if (!name.startsWith(`${prefix}${place}/`)) continue;
    found.push({
      at: decodeURIComponent(name.slice(prefix.length + place.length + 1)),
      value: store.getItem(name) ?? "",
    });
  }
  return found;
}
