import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from "react";

/**
 * Every action has a key. Outside a field the letter alone works, inside a
 * field together with Alt. `?` lists what works now.
 */
export type Key = { key: string; says: string; run: () => void };

/** Whoever speaks to the screen, or rests a hand on it, turns the bare letters off; with Alt they go on working. */
const place = "handwerk.letters";
export const lettersOff = () => localStorage.getItem(place) === "off";
export const turnLetters = (off: boolean) => localStorage.setItem(place, off ? "off" : "on");

type Registry = { add: (k: Key) => () => void; list: () => Key[] };

const Keys = createContext<Registry | undefined>(undefined);

const isTyping = (t: EventTarget | null) =>
  t instanceof HTMLElement &&
  (t.matches("input:not([type=radio]):not([type=checkbox]), textarea, select") || t.isContentEditable);

/** A held key that writes text: any but Enter in a field, all in a text area. */
const isText = (e: KeyboardEvent) =>
  isTyping(e.target) &&
  !e.altKey &&
  (e.key !== "Enter" || (e.target instanceof HTMLElement && e.target.matches("textarea")));

export function KeysProvider({ children, onHelp }: { children: ReactNode; onHelp: () => void }) {
  const keys = useRef<Key[]>([]);
  const registry = useMemo<Registry>(
    () => ({
      add(k) {
        keys.current = [...keys.current, k];
        return () => {
          keys.current = keys.current.filter((x) => x !== k);
        };
      },
      list: () => keys.current,
    }),
    [],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      // A key that is held says nothing more, in forms neither.
      if (e.repeat && !isText(e)) {
        if (
          e.key === "Enter" ||
          e.altKey ||
          keys.current.some((k) => k.key.toLowerCase() === e.key.toLowerCase())
        )
          e.preventDefault();
        return;
      }
      if (e.ctrlKey || e.metaKey || document.querySelector("[role=dialog]")) return;
      if (isTyping(e.target) !== e.altKey && !(lettersOff() && e.altKey)) return;
      if (lettersOff() && !e.altKey && e.key !== "?") return;
      if (e.key === "?" && !e.altKey) {
        onHelp();
        return;
      }
      const pressed = e.altKey && e.code.startsWith("Key") ? e.code.slice(3) : e.key;
      const found = keys.current.findLast((k) => k.key.toLowerCase() === pressed.toLowerCase());
      if (!found) return;
      e.preventDefault();
      found.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onHelp]);
  return <Keys.Provider value={registry}>{children}</Keys.Provider>;
}

export function useKeyList(): Key[] {
  const registry = useContext(Keys);
  if (!registry) throw new Error("useKeyList needs a KeysProvider");
  return registry.list();
}

/** Binds a key while the component is shown and enabled. */
export function useKey(key: string, says: string, run: () => void, enabled = true) {
  const registry = useContext(Keys);
  if (!registry) throw new Error("useKey needs a KeysProvider");
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    if (!enabled) return;
    return registry.add({ key, says, run: () => latest.current() });
  }, [registry, key, says, enabled]);
}
