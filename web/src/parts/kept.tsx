import { createContext, type ReactNode, useContext, useState, useSyncExternalStore } from "react";
import { draftsBelow, keepDraft, onDrafts, placeOf, readDraft } from "../model/drafts";

/** Whose and which rebuild's what is typed below here is. */
const Scope = createContext("");

export function KeptFor({ scope, children }: { scope: string; children: ReactNode }) {
  const above = useContext(Scope);
  const here = above ? `${above}/${placeOf(scope)}` : placeOf(scope);
  return <Scope value={here}>{children}</Scope>;
}

/** Where drafts of this person and rebuild are kept. */
export const useScope = () => useContext(Scope);

/**
 * Text that survives a reload, until it was sent; it stands only at its place, for its rebuild and its
 * person.
 */
export function useKept(place: string, initial = ""): [string, (v: string) => void] {
  const name = `${useContext(Scope)}/${place}`;
  const value = useSyncExternalStore(onDrafts, () => readDraft(name) ?? initial);
  return [value, (v) => keepDraft(name, v, initial)];
}

/** The same as a field wants it. */
export function useKeptField(place: string, initial = "") {
  const [value, onValue] = useKept(place, initial);
  return { value, onValue };
}

/** What was typed below a place and not taken: where, and what. */
export function useLeft(place: string): {
  left: { at: string; value: string }[];
  drop: (at: string) => void;
} {
  const base = `${useContext(Scope)}/${place}`;
  const [, again] = useState(0);
  return {
    left: draftsBelow(base),
    drop(at) {
      keepDraft(`${base}/${placeOf(at)}`, "");
      again((n) => n + 1);
    },
  };
}

type LeftProps = { place: string; name: (at: string) => string | undefined; onGo?: (at: string) => void };

/** What was typed for a place that somebody else took meanwhile: it stays there and is shown. */
export function LeftBehind({ place, name, onGo }: LeftProps) {
  const { left, drop } = useLeft(place);
  return left.map(({ at, value }) => {
    const where = name(at);
    if (!where) return null;
    return (
      <p
        key={at}
        role="status"
        className="border border-undecided border-l-6 mt-2.5 px-3 py-1.5 flex flex-wrap gap-x-4 items-center"
      >
        <span>
          <b>
            Not recorded: {value} for {where}.
          </b>{" "}
          Someone else recorded it first.
        </span>
        {onGo && (
          <button type="button" className="underline underline-offset-3 min-h-11" onClick={() => onGo(at)}>
            Replace theirs with mine
          </button>
        )}
        <button type="button" className="underline underline-offset-3 min-h-11" onClick={() => drop(at)}>
          Discard mine
        </button>
      </p>
    );
  });
}
