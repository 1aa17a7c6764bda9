import {
  infiniteQueryOptions,
  keepPreviousData,
  type QueryClient,
  useInfiniteQuery,
  useQuery,
} from "@tanstack/react-query";
import type { components } from "../model/schema.gen";
import type { Draft, Rebuild } from "../model/types";
import { client, sendPhoto, unwrap } from "./client";
import { foundQuery } from "./fleet";
import { sessionQuery } from "./session";
import { useWrite } from "./write";

export { sendPhoto };

export const newKey = () =>
  crypto.randomUUID?.() ??
  `${Date.now()}-${Math.random().toString(36).slice(2)}-${Math.random().toString(36).slice(2)}`;

/**
 * Asks for all a page shows at once, before its script has looked who is there: on a slow line each way
 * counts.
 */
export function fetchAhead(cache: QueryClient, path: string) {
  const [, id, step] = /^\/rebuilds\/([^/]+)\/([^/]+)$/.exec(path) ?? [];
  void cache.prefetchQuery(sessionQuery(cache));
  if (path === "/") void cache.prefetchInfiniteQuery(boardQuery(false));
  if (!id || !step) return;
  void cache.prefetchQuery(sheetQuery(id));
  void cache.prefetchQuery(stepQuery(id, step));
}

/** What was asked for ahead of its page is not asked for again by it. */
const aheadBy = 2000;

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

const readSheet = (id: string) => unwrap(client.GET("/api/v1/rebuilds/{id}", { params: { path: { id } } }));

const sheetQuery = (id: string) => ({
  staleTime: aheadBy,
  queryKey: ["rebuild", id, "sheet"],
  queryFn: () => readSheet(id),
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

/** What is promised already, and how long such jobs took. */
export const usePromises = (from: string, route = "") =>
  useQuery({
    queryKey: ["promises", from, route],
    queryFn: () => unwrap(client.GET("/api/v1/promises", { params: { query: { from, route } } })),
  });

/** Where the parts of a rebuild lie. */
export const useTrays = (id: string) =>
  useQuery({
    queryKey: ["trays", id],
    queryFn: () => unwrap(client.GET("/api/v1/rebuilds/{id}/trays", { params: { path: { id } } })),
  });

/** What a rebuild has cost so far. */
export const useCosts = (id: string) =>
  useQuery({
    queryKey: ["costs", id],
    queryFn: () => unwrap(client.GET("/api/v1/rebuilds/{id}/costs", { params: { path: { id } } })),
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

export const useFound = (question: string) =>
  useQuery({
    ...foundQuery(question.trim()),
    enabled: question.trim() !== "",
    placeholderData: keepPreviousData,
  });

type NewRebuild = components["schemas"]["Order"];
type Opening = { key: string; order: NewRebuild; pictures: readonly File[]; onKept: (file: File) => void };

/** Opens a rebuild, with pictures as remarks at its first step. */
export const useOpen = () =>
  useWrite(
    async ({ key, order, pictures, onKept }: Opening) => {
      const rebuild = await unwrap(
        client.POST("/api/v1/rebuilds", { params: { header: { "Idempotency-Key": key } }, body: order }),
      );
      await keepPictures(rebuild, pictures, onKept);
      return rebuild;
    },
    { again: [["board"]] },
  );

/** A picture that cannot be kept does not undo the rebuild, and those kept before it do not go again. */
async function keepPictures(rebuild: Rebuild, pictures: readonly File[], onKept: (file: File) => void) {
  if (pictures.length === 0) return;
  const sheet = await readSheet(rebuild.id);
  const step = sheet.steps[0]?.id ?? "";
  for (const file of pictures) {
    const photo = await sendPhoto(rebuild.id, file);
    await unwrap(
      client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
        params: { path: { id: rebuild.id, step }, header: { "Idempotency-Key": newKey() } },
        body: { act: "note", note: "At intake.", photo },
      }),
    );
    onKept(file);
  }
}

/** Keeps a figure said in a rebuild in the unit's spec sheet, or with its vehicle. */
export const useKeepFigure = (id: string) =>
  useWrite((entry: string) =>
    unwrap(client.POST("/api/v1/rebuilds/{id}/kept-figures", { params: { path: { id } }, body: { entry } })),
  );

/** Keeps the parts as they came off in the family's sheet. */
export const useKeepStack = (id: string) =>
  useWrite((step: string) =>
    unwrap(client.POST("/api/v1/rebuilds/{id}/kept-stack", { params: { path: { id } }, body: { step } })),
  );

/** Keeps a kit of lines of the parts list in the family's sheet, which the step offers then. */
export const useKeepKit = (id: string, step: string) =>
  useWrite(
    (body: Omit<components["schemas"]["KitKept"], "step">) =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/kept-kit", { params: { path: { id } }, body: { step, ...body } }),
      ),
    { again: [["rebuild", id, "step", step]] },
  );

/** Says which drawer the family's shims come from. */
export const useTakeDrawer = (id: string, step: string) =>
  useWrite(
    (drawer: string) =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/steps/{step}/drawer", {
          params: { path: { id, step } },
          body: { drawer },
        }),
      ),
    { again: [["rebuild", id]] },
  );

/** Reads a table of parts; nothing is kept. */
export const useReadParts = () =>
  useWrite(async (file: File) =>
    unwrap(client.POST("/api/v1/parts/read", { body: { text: await file.text() } })),
  );
