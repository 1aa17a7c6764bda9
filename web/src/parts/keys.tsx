import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";

/**
 * Every action has a key. Outside a field the letter alone works, inside a
 * field together with Alt. `?` lists what works now.
 */
export type Key = { key: string; says: string; run: () => void };

type Registry = { add: (k: Key) => () => void; list: () => Key[] };

const Keys = createContext<Registry | undefined>(undefined);

const isTyping = (t: EventTarget | null) => t instanceof HTMLElement && (t.matches("input:not([type=radio]):not([type=checkbox]), textarea, select") || t.isContentEditable);

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
      if (e.ctrlKey || e.metaKey || document.querySelector("[role=dialog]")) return;
      if (isTyping(e.target) !== e.altKey) return;
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

/** Text that survives a reload, until it was sent. */
export function useKept(place: string, initial = ""): [string, (v: string) => void] {
  const name = `handwerk.kept.${place}`;
  const [state, setState] = useState({ name, value: localStorage.getItem(name) ?? initial });
  const value = state.name === name ? state.value : (localStorage.getItem(name) ?? initial);
  const set = (v: string) => {
    if (v === "" || v === initial) localStorage.removeItem(name);
    else localStorage.setItem(name, v);
    setState({ name, value: v });
  };
  return [value, set];
}
