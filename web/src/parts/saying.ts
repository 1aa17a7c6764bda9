import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { ahead } from "../data/ahead";
import { draftsLostBy, putBack } from "../model/drafts";
import { outbox } from "../data/sending";
import { listen } from "../data/stream";
import type { AnyDraft, Draft, Sheet, StepView, Written } from "../model/types";
import { useSession } from "../data/session";
import { useScope } from "./kept";

export const newKey = () =>
  crypto.randomUUID?.() ??
  `${Date.now()}-${Math.random().toString(36).slice(2)}-${Math.random().toString(36).slice(2)}`;

/** What is on its way to a rebuild: its own news are known before they are told. */
const writing = new Map<string, Promise<unknown>>();

/**
 * How far each rebuild's pages are known from one answer to an own entry. What is read in two
 * answers does not count: another's entry may have come between them.
 */
const known = new Map<string, number>();

/** What an entry is called on record by now, where it was on its way when it was touched. */
export const recordName = (id: string) => outbox.nameOf(id);

/** An entry that is not on record yet: nothing can be done with it there. */
export const isOnItsWay = (id: string) => outbox.list().waiting.some((w) => w.key === id);

const saySame = (a: Draft, b: Draft) =>
  JSON.stringify({ ...a, spent: 0 }) === JSON.stringify({ ...b, spent: 0 });

/** Acts that may be said twice in the same words. */
const repeated = new Set(["reading", "note", "found"]);

/** What a step says, and the last thing of it that was refused. */
export type Saying = {
  /** Says one thing; taken is called at once, as the hand goes on before the server answers. */
  say: (draft: Draft, taken?: () => void) => void;
  fault: Error | null;
  refused: AnyDraft | undefined;
};

/**
 * Writes entries at a step. What was said is out of the hand at once: it stands
 * in the outbox and in the step as it will be. What is refused comes back to
 * the fields it was taken from, where nothing was typed since.
 */
export function useSaying(rebuild: string, step: string, title: string): Saying {
  const cache = useQueryClient();
  const by = useSession().data?.person.login ?? "";
  const scope = useScope();
  const [wrong, setWrong] = useState<{ draft: Draft; error: Error } | undefined>();
  const looking = useRef(false);
  useEffect(() => {
    looking.current = true;
    return () => {
      looking.current = false;
    };
  }, []);
  const say = (draft: Draft, taken?: () => void) => {
    const { waiting, landed } = outbox.list();
    const read = cache.getQueryData<StepView>(["rebuild", rebuild, "step", step])?.entries ?? [];
    const unread = landed.filter((l) => !read.some((e) => e.id === l.id));
    const twice = [...waiting, ...unread].some(
      (w) => w.rebuild === rebuild && w.step === step && saySame(w.draft, draft),
    );
    // A key pressed again before the answer says nothing more; the same reading again does.
    if (twice && !repeated.has(draft.act)) return;
    const said = { key: newKey(), by, rebuild, step, title, draft };
    const sent = outbox.say(said);
    const silent = sent.catch(() => undefined);
    writing.set(rebuild, silent);
    setWrong(undefined);
    const emptied = draftsLostBy(scope, () => taken?.());
    emptyAtOnce(emptied.map((d) => d.value));
    sent.then(
      (written) => readAgain(cache, rebuild, step, written),
      (error: unknown) => {
        void cache.invalidateQueries({ queryKey: ["rebuild", rebuild] });
        // Whoever went on to another step would not see it here.
        if (!looking.current || !putBack(emptied)) void outbox.keepRefusal(said, error);
        setWrong({ draft, error: error instanceof Error ? error : new Error(String(error)) });
      },
    );
  };
  return { say, fault: wrong?.error ?? null, refused: wrong?.draft };
}

/** The field is empty before the rest of a step is drawn anew: a slow tablet takes its time for that. */
function emptyAtOnce(taken: readonly string[]) {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement && field.value !== "" && taken.includes(field.value))
    field.value = "";
}

/** The answer says how all stands now; other steps and the record are read again when somebody looks. */
function readAgain(cache: QueryClient, rebuild: string, step: string, written: Written | undefined) {
  const key = ["rebuild", rebuild];
  const { sheet, step: view } = written?.now ?? {};
  const shown = cache.getQueryData<Sheet>([...key, "sheet"])?.rebuild.head.seq ?? 0;
  if (!sheet || !view || sheet.rebuild.head.seq < shown) {
    // Not awaited: while the server is away, reading again goes on for long.
    void cache.invalidateQueries({ queryKey: key });
    return;
  }
  void cache.invalidateQueries({ queryKey: key, refetchType: "none" });
  for (const [what, now] of [
    [[...key, "sheet"], sheet],
    [[...key, "step", step], view],
  ] as const) {
    void cache.cancelQueries({ queryKey: what, exact: true }); // what was asked before comes back older
    cache.setQueryData(what, now);
  }
  known.set(rebuild, sheet.rebuild.head.seq);
}

/** Reads again what has changed: of one rebuild, or of any; also after a lost connection. */
export function useEvents(rebuild: string | undefined, queryKey: readonly unknown[]) {
  const cache = useQueryClient();
  const key = JSON.stringify(queryKey);
  useEffect(
    () =>
      listen((told) => {
        if (rebuild && told.rebuild && told.rebuild !== rebuild) return;
        void Promise.resolve(writing.get(told.rebuild ?? "")).then(() => {
          if (told.rebuild && rebuild && (known.get(rebuild) ?? 0) >= told.seq) return;
          return cache.invalidateQueries({ queryKey: JSON.parse(key) });
        });
      }),
    [rebuild, key, cache],
  );
}

/** What waits for the server and what it refused, and the loop that sends what a person has waiting. */
export function useOutbox(by: string) {
  const seen = useSyncExternalStore(outbox.subscribe, outbox.list);
  const cache = useQueryClient();
  const waits = seen.waiting.some((w) => w.by === by);
  useEffect(() => {
    if (!waits) return;
    let going = false; // a server that hangs is not asked again meanwhile
    const send = () => {
      if (going) return;
      going = true;
      void outbox
        .drain(by)
        .then((went) => {
          if (went) void cache.invalidateQueries();
        })
        .finally(() => {
          going = false;
        });
    };
    const timer = setInterval(send, 1500);
    window.addEventListener("online", send);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", send);
    };
  }, [waits, by, cache]);
  return seen;
}

/** A step as it will be when the server has what waits for it. */
export function useAhead(rebuild: string, view: StepView): StepView {
  const seen = useSyncExternalStore(outbox.subscribe, outbox.list);
  const me = useSession().data?.person;
  return useMemo(
    () =>
      ahead(
        view,
        [...seen.landed, ...seen.waiting].filter((w) => w.rebuild === rebuild),
        me,
      ),
    [seen, view, rebuild, me],
  );
}
