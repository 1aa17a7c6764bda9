import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { setCurrency } from "../model/costs";
import { setZone } from "../model/moment";
import type { Session, Shop } from "../model/types";
import { ApiError } from "../model/problem";
import { client, setCsrf, unwrap } from "./client";
import { useWrite } from "./write";

/** What a session brings with it: the token for writes, the shop's time zone, the units. */
function enter(session: Session, cache: QueryClient) {
  setCsrf(session.csrf);
  setZone(session.zone);
  setCurrency(session.currency ?? "");
  cache.setQueryData(["units"], session.units);
  cache.setQueryData(["left"], false);
}

export const sessionQuery = (cache: QueryClient) => ({
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

/** Whether a lead works here now. */
export const useLeads = (): boolean => useSession().data?.person.role === "lead";

/** Somebody is in: all that was read before is read again. */
const entered = (session: Session, cache: QueryClient) => {
  enter(session, cache);
  cache.setQueryData(["session"], session);
  void cache.invalidateQueries();
};

export const useSignIn = () =>
  useWrite((body: { login: string; password: string }) => unwrap(client.POST("/api/v1/session", { body })), {
    after: entered,
  });

/** By name and PIN, at a tablet of the bench. */
export const useStandHere = () =>
  useWrite((body: { login: string; pin: string }) => unwrap(client.POST("/api/v1/bench/session", { body })), {
    after: entered,
  });

type First = { code: string; shop: Shop; lead: { login: string; name: string; password: string } };

/** Opens an empty workshop with its first lead; the code was good once. */
export const useBegin = () =>
  useWrite((body: First) => unwrap(client.POST("/api/v1/first", { body })), {
    after: (session, cache) => {
      history.replaceState(null, "", "/");
      entered(session, cache);
    },
  });

/** Whether nobody has an account here yet; asked only where nobody is signed in. */
export const useFirst = (asked: boolean) =>
  useQuery({ queryKey: ["first"], enabled: asked, queryFn: () => unwrap(client.GET("/api/v1/first")) });

/** What this screen is: a tablet of the bench, with who may stand there. */
export const useBench = () =>
  useQuery({ queryKey: ["bench"], queryFn: () => unwrap(client.GET("/api/v1/bench")) });

/** Whoever leaves by himself finds the way in; whose session ran out finds his page behind it. */
export function signedOut(cache: QueryClient) {
  cache.setQueryData(["left"], true);
  cache.setQueryData(["session"], null);
}

export const endSession = () => unwrap(client.POST("/api/v1/session/end"));

/** The session that ran out while somebody worked: his page stays where it is until he is back. */
export function useRanOut(): Session | undefined {
  const now = useSession().data;
  const left = useQuery<boolean>({ queryKey: ["left"], enabled: false }).data;
  const [last, setLast] = useState<Session | undefined>();
  if (now && now !== last) setLast(now);
  return now === null && !left ? last : undefined;
}

/** Where one is signed in. */
export const useSessions = () =>
  useQuery({ queryKey: ["sessions"], queryFn: () => unwrap(client.GET("/api/v1/sessions")) });

export const useEndSession = () =>
  useWrite((id: string) => unwrap(client.POST("/api/v1/sessions/{id}/end", { params: { path: { id } } })), {
    again: [["sessions"]],
    always: true,
  });

export const usePassword = () =>
  useWrite(
    (body: { current: string; password: string }) =>
      unwrap(client.POST("/api/v1/session/password", { body })),
    { again: [["sessions"]] },
  );

export const usePIN = () =>
  useWrite((body: { pin: string; password: string }) => unwrap(client.POST("/api/v1/session/pin", { body })));
