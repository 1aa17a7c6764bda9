import {
  keepPreviousData,
  infiniteQueryOptions,
  type QueryClient,
  useInfiniteQuery,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useState } from "react";
import { believed } from "../model/json";
import type { Schema } from "../model/schema";
import { ApiError, calculate, client, setCsrf, unwrap } from "../model/client";
import { type InputOf, resultOf } from "../model/results";
import { setZone } from "../model/moment";
import type { Draft, Session } from "../model/types";

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
    staleTime: Infinity,
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

const noLabels: Record<string, string> = {};

/** The words of the catalogue for figures of results. */
export const useLabels = () => useCatalogue().data?.labels ?? noLabels;

/** Every calculator there is. */
export const useCatalogue = () =>
  useQuery({
    queryKey: ["catalogue"],
    staleTime: Infinity,
    queryFn: () => unwrap(client.GET("/api/v1/calc")),
  });

/** What a calculator takes, for a form that asks for it. */
export const useSchema = (calc: string) =>
  useQuery({
    queryKey: ["schema", calc],
    staleTime: Infinity,
    queryFn: async () =>
      believed<{ input: Schema }>(
        await unwrap(client.GET("/api/v1/calc/{name}", { params: { path: { name: calc } } })),
      ),
  });

export const useUnits = () =>
  useQuery({
    queryKey: ["units"],
    staleTime: Infinity,
    queryFn: async () => (await unwrap(client.GET("/api/v1/units"))).units,
  });

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
