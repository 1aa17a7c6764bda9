import { keyOf, meant, type Pressed } from "./keymap";
import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
} from "react";

/**
 * Every action has a key. Outside a field the letter alone works, inside a
 * field together with Alt. `?` lists what works now.
 */
export type Key = { key: string; says: string; run: () => void };

/**
 * Whoever speaks to the screen, or rests a hand on it, turns the bare letters off; with Alt they go on
 * working.
 */
const place = "handwerk.letters";
export const lettersOff = () => localStorage.getItem(place) === "off";
export const turnLetters = (off: boolean) => localStorage.setItem(place, off ? "off" : "on");

type Registry = { add: (k: Key) => () => void; list: () => Key[] };

const Keys = createContext<Registry | undefined>(undefined);

const isTyping = (t: EventTarget | null) =>
  t instanceof HTMLElement &&
  t.matches("input:not([type=radio]):not([type=checkbox]), textarea, select, [contenteditable=true]");

/** After so long nobody is still writing into a field that went away, in ms. */
const pause = 1000;

/**
 * Whether a bare letter still belongs to a field that the program took away
 * while somebody wrote in it: it goes nowhere, rather than do something.
 */
function writing() {
  let inText = false;
  let last = 0;
  return {
    /** Notes a key, and says whether it is one of those. */
    stray(e: KeyboardEvent): boolean {
      const letter = e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey;
      const stray = inText && letter && !isTyping(e.target) && e.timeStamp - last < pause;
      if (!stray) inText = letter && isTyping(e.target);
      last = e.timeStamp;
      return stray;
    },
    /** Somebody left the field with the pointer. */
    ended: () => {
      inText = false;
    },
  };
}

/** A held key that writes text: any but Enter in a field, all in a text area. */
const isText = (e: KeyboardEvent) =>
  isTyping(e.target) &&
  !e.altKey &&
  (e.key !== "Enter" || (e.target instanceof HTMLElement && e.target.matches("textarea")));

/**
 * Whether a key may be a command: bare outside a field, with Alt inside; letters that are off always want
 * Alt.
 */
function isCommand(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || document.querySelector("[role=dialog]")) return false;
  if (lettersOff()) return e.altKey || (e.key === "?" && !isTyping(e.target));
  return isTyping(e.target) === e.altKey;
}

/** Opens the list of keys. */
const HelpContext = createContext<() => void>(() => undefined);

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
    const written = writing();
    const known = (key: string) => keys.current.some((k) => k.key === key);
    const onKey = (e: KeyboardEvent) => {
      const stray = written.stray(e);
      // A key that is held says nothing more, in forms neither.
      if (e.repeat && !isText(e)) {
        if (e.key === "Enter" || e.altKey || known(meant(e, known))) e.preventDefault();
        return;
      }
      if (!isCommand(e)) return;
      if (e.key === "?" && !e.altKey) {
        onHelp();
        return;
      }
      const pressed = meant(e, known);
      const found = keys.current.findLast((k) => k.key === pressed);
      if (!found || stray) return;
      e.preventDefault();
      found.run();
    };
    window.addEventListener("keydown", onKey);
    window.addEventListener("pointerdown", written.ended);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("pointerdown", written.ended);
    };
  }, [onHelp]);
  return (
    <Keys.Provider value={registry}>
      <HelpContext value={onHelp}>{children}</HelpContext>
    </Keys.Provider>
  );
}

/** Shows what works now. */
export const useHelp = () => useContext(HelpContext);

export function useKeyList(): Key[] {
  const registry = useContext(Keys);
  if (!registry) throw new Error("useKeyList needs a KeysProvider");
  return registry.list();
}

/** Binds a key while the component is shown and enabled. */
export function useKey(name: Pressed, says: string, run: () => void, enabled = true) {
  const key = keyOf(name);
  const registry = useContext(Keys);
  if (!registry) throw new Error("useKey needs a KeysProvider");
  const latest = useRef(run);
  // Before the next key can come: a hand at twelve keys a second presses within a frame.
  useLayoutEffect(() => {
    latest.current = run;
  });
  useLayoutEffect(() => {
    if (!enabled) return;
    return registry.add({ key, says, run: () => latest.current() });
  }, [registry, key, says, enabled]);
}
