import {
  keepPreviousData,
  infiniteQueryOptions,
  type QueryClient,
  useInfiniteQuery,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { ApiError, calculate, client, setCsrf, unwrap } from "../model/client";
import { type InputOf, resultOf } from "../model/results";
import { ahead } from "../model/ahead";
import { listen } from "../model/stream";
import { outbox } from "../model/sending";
import { draftsLostBy, putBack } from "../model/drafts";
import { setZone } from "../model/moment";
import { useScope } from "./kept";
import type { Draft, Session, Sheet, StepView, Written } from "../model/types";

/** What a session brings with it: the token for writes, the shop's time zone, the units. */
export function enter(session: Session, cache: QueryClient) {
  setCsrf(session.csrf);
  setZone(session.zone);
  cache.setQueryData(["units"], session.units);
  cache.setQueryData(["left"], false);
}

const sessionQuery = (cache: QueryClient) => ({
  queryKey: ["session"],
  queryFn: async (): Promise<Session | null> => {
    try {
      const session = await unwrap(client.GET("/api/v1/session"));
      enter(session, cache);
      return session;
    } catch (e) {
      if (e instanceof ApiError && e.status === 401) return null;
      throw e;
    }
  },
  staleTime: 5 * 60_000,
});

export const useSession = () => useQuery(sessionQuery(useQueryClient()));

/** Asks for all a page shows at once, before its script has looked who is there: on a slow line each way counts. */
export function fetchAhead(cache: QueryClient, path: string) {
  const [, id, step] = /^\/rebuilds\/([^/]+)\/([^/]+)$/.exec(path) ?? [];
  void cache.prefetchQuery(sessionQuery(cache));
  if (path === "/") void cache.prefetchInfiniteQuery(boardQuery(false));
  if (!id || !step) return;
  void cache.prefetchQuery(sheetQuery(id));
  void cache.prefetchQuery(stepQuery(id, step));
}

/** Whoever leaves by himself finds the way in; whose session ran out finds his page behind it. */
export function signedOut(cache: QueryClient) {
  cache.setQueryData(["left"], true);
  cache.setQueryData(["session"], null);
}

/** The session that ran out while somebody worked: his page stays where it is until he is back. */
export function useRanOut(): Session | undefined {
  const now = useSession().data;
  const left = useQuery<boolean>({ queryKey: ["left"], enabled: false }).data;
  const [last, setLast] = useState<Session | undefined>();
  if (now && now !== last) setLast(now);
  return now === null && !left ? last : undefined;
}

/** What was asked for ahead of its page is not asked for again by it. */
const aheadBy = 2000;

/** Whether nobody has an account here yet; asked only where nobody is signed in. */
export const useFirst = (asked: boolean) =>
  useQuery({ queryKey: ["first"], enabled: asked, queryFn: () => unwrap(client.GET("/api/v1/first")) });

const boardQuery = (closed: boolean) =>
  infiniteQueryOptions({
    queryKey: ["board", closed],
    staleTime: aheadBy,
    initialPageParam: "",
    queryFn: ({ pageParam: after }) =>
      unwrap(
        client.GET("/api/v1/board", {
          params: { query: { ...(closed && { closed: "true" as const }), ...(after && { after }) } },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });

export const useBoard = (closed: boolean) => useInfiniteQuery(boardQuery(closed));

const sheetQuery = (id: string) => ({
  staleTime: aheadBy,
  queryKey: ["rebuild", id, "sheet"],
  queryFn: () => unwrap(client.GET("/api/v1/rebuilds/{id}", { params: { path: { id } } })),
});

export const useSheet = (id: string) => useQuery(sheetQuery(id));

export const useRecord = (id: string) =>
  useQuery({
    queryKey: ["rebuild", id, "record"],
    queryFn: () => unwrap(client.GET("/api/v1/rebuilds/{id}/record", { params: { path: { id } } })),
  });

export const usePlan = (hash: string | undefined) =>
  useQuery({
    queryKey: ["plan", hash],
    enabled: hash !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => unwrap(client.GET("/api/v1/plans/{hash}", { params: { path: { hash: hash ?? "" } } })),
  });

const stepQuery = (id: string, step: string) => ({
  staleTime: aheadBy,
  queryKey: ["rebuild", id, "step", step],
  queryFn: () => unwrap(client.GET("/api/v1/rebuilds/{id}/steps/{step}", { params: { path: { id, step } } })),
});

export const useStep = (id: string, step: string) =>
  useQuery({ ...stepQuery(id, step), enabled: step !== "" });

/** The day that can be promised going a way; read again when something was written meanwhile. */
export const usePromise = (id: string, way: string, entries: number) =>
  useQuery({
    queryKey: ["rebuild", id, "promise", way, entries],
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(client.GET("/api/v1/rebuilds/{id}/promise", { params: { path: { id }, query: { way } } })),
  });

/** What was found along the way on a vehicle. */
export const useFinds = (vehicle: string | undefined) =>
  useQuery({
    queryKey: ["found", vehicle],
    enabled: vehicle !== undefined,
    queryFn: async () =>
      (await unwrap(client.GET("/api/v1/vehicles/{id}/found", { params: { path: { id: vehicle ?? "" } } })))
        .found,
  });

export const useFleet = () =>
  useQuery({ queryKey: ["fleet"], queryFn: () => unwrap(client.GET("/api/v1/fleet")) });

const noLabels: Record<string, string> = {};

/** The words of the catalogue for figures of results. */
export function useLabels() {
  const catalogue = useQuery({
    queryKey: ["catalogue"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => unwrap(client.GET("/api/v1/calc")),
  });
  return catalogue.data?.labels ?? noLabels;
}

export const useUnits = () =>
  useQuery({
    queryKey: ["units"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => (await unwrap(client.GET("/api/v1/units"))).units,
  });

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

const saySame = (a: Draft, b: Draft) =>
  JSON.stringify({ ...a, spent: 0 }) === JSON.stringify({ ...b, spent: 0 });

/** Acts that may be said twice in the same words. */
const repeated = new Set(["reading", "note", "found"]);

/** What a step says, and the last thing of it that was refused. */
export type Saying = {
  /** Says one thing; taken is called at once, as the hand goes on before the server answers. */
  say: (draft: Draft, taken?: () => void) => void;
  fault: Error | null;
  refused: Draft | undefined;
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

/** The field that was typed in is empty before the rest of a step is drawn anew: a slow tablet takes its time for that. */
function emptyAtOnce(taken: readonly string[]) {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement && field.value !== "" && taken.includes(field.value))
    field.value = "";
}

/** The answer to an entry says how all stands now; other steps and the record are read again when somebody looks. */
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

/** What an entry would mean, while it is typed. Nothing is kept. */
export function usePreview(rebuild: string, step: string, draft: Draft | undefined) {
  const asked = draft && JSON.stringify(draft);
  return useQuery({
    queryKey: ["preview", rebuild, step, asked],
    enabled: draft !== undefined,
    retry: false,
    gcTime: 10_000,
    // At once; what is overtaken by the next key is dropped on its way.
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/steps/{step}/preview", {
          params: { path: { id: rebuild, step } },
          body: draft ?? { act: "note" },
          signal,
        }),
      ),
  });
}

/** Asks a calculator outside the record: what if. */
export function useCalculator<Calc extends string>(calc: Calc, input: Partial<InputOf<Calc>> | undefined) {
  return useQuery({
    queryKey: ["calc", calc, JSON.stringify(input)],
    enabled: input !== undefined,
    retry: false,
    gcTime: 10_000,
    placeholderData: keepPreviousData,
    queryFn: async () => resultOf(calc, await calculate(calc, input)),
  });
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

/** Whatever has all the words of a question. */
export const useFound = (question: string) =>
  useQuery({
    queryKey: ["find", question.trim()],
    enabled: question.trim() !== "",
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/v1/find", { params: { query: { q: question.trim() } }, signal })),
  });

export const customerQuery = (id: string) => ({
  queryKey: ["customer", id],
  queryFn: () => unwrap(client.GET("/api/v1/customers/{id}", { params: { path: { id } } })),
});

/** A customer with vehicles and rebuilds. */
export const useCustomer = (id: string) => useQuery({ ...customerQuery(id), enabled: id !== "" });

export const unitQuery = (id: string) => ({
  queryKey: ["unit", id],
  queryFn: () => unwrap(client.GET("/api/v1/units/{id}", { params: { path: { id } } })),
});

/** A unit with the vehicle it sits in and its rebuilds. */
export const useUnit = (id: string) => useQuery({ ...unitQuery(id), enabled: id !== "" });

/** The families there is a spec sheet for, with their versions. */
export const useSheets = () =>
  useQuery({
    queryKey: ["sheets"],
    staleTime: 60_000,
    queryFn: async () => (await unwrap(client.GET("/api/v1/sheets"))).sheets,
  });

export const useRoutes = () =>
  useQuery({
    queryKey: ["routes"],
    staleTime: 60_000,
    queryFn: async () => (await unwrap(client.GET("/api/v1/routes"))).routes,
  });
