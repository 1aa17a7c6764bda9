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

const listeners = new Set<() => void>();

/** Tells whoever shows drafts that one was typed, taken or put back. */
export function onDrafts(tell: () => void) {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

/** Keeps a draft; what stands there anyway is not kept. */
export function keepDraft(place: string, value: string, initial = "", store: Store = localStorage) {
  if (value === initial) store.removeItem(prefix + place);
  else store.setItem(prefix + place, value);
  for (const tell of listeners) tell();
}

type Typed = { at: string; value: string };

/** Which drafts below a place an act takes away, so that they can be put back when it is refused. */
export function draftsLostBy(place: string, act: () => void, store: Store = localStorage): Typed[] {
  const before = namedBelow(place, store);
  act();
  return before.filter((d) => !readDraft(d.at, store));
}

/**
 * Puts drafts back where nothing was typed since. True when there were any and all of them stand there
 * again.
 */
export function putBack(drafts: readonly Typed[], store: Store = localStorage): boolean {
  const free = drafts.filter((d) => !readDraft(d.at, store));
  for (const d of free) keepDraft(d.at, d.value, "", store);
  return drafts.length > 0 && free.length === drafts.length;
}

/** Drafts left below a place: the last part of each name, and what was typed. */
export const draftsBelow = (place: string, store: Store = localStorage): Typed[] =>
  namedBelow(place, store).map((d) => ({ ...d, at: decodeURIComponent(d.at.slice(place.length + 1)) }));

/** Drafts below a place by their whole names. */
function namedBelow(place: string, store: Store): Typed[] {
  const found: Typed[] = [];
  for (let i = 0; i < store.length; i++) {
    const name = store.key(i) ?? "";
    if (!name.startsWith(`${prefix}${place}/`)) continue;
    const value = store.getItem(name);
    if (value) found.push({ at: name.slice(prefix.length), value });
  }
  return found;
}
