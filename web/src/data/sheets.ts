import { useQuery } from "@tanstack/react-query";
import type { OwnRoute, RoutePage, SheetPage } from "../model/types";
import { client, unwrap } from "./client";
import { useWrite } from "./write";

/** The families there is a spec sheet for, with their versions. */
export const useSheets = () =>
  useQuery({
    queryKey: ["sheets"],
    staleTime: 60_000,
    queryFn: async () => (await unwrap(client.GET("/api/v1/sheets"))).sheets,
  });

export const useSpecSheet = (id: string) =>
  useQuery({
    queryKey: ["sheet", id],
    queryFn: () => unwrap(client.GET("/api/v1/sheets/{id}", { params: { path: { id } } })),
  });

const put = (kept: SheetPage) => ["sheet", kept.sheet.id];

/** Begins a family's sheet, empty or like another. */
export const useBeginSheet = (begun: (id: string) => void) =>
  useWrite(
    ({ family, like }: { family: string; like: string }) =>
      unwrap(client.POST("/api/v1/sheets", { body: { family, ...(like && { like }) } })),
    { put, again: [["sheets"]], after: (page) => begun(page.sheet.id) },
  );

/** Says one figure of a sheet otherwise; none says it no longer. */
export const useSayFigure = ({ sheet }: SheetPage, path: string) =>
  useWrite(
    ({ figure, why }: { figure: unknown; why: string }) =>
      unwrap(
        client.POST("/api/v1/sheets/{id}/figures", {
          params: { path: { id: sheet.id } },
          body: { version: sheet.version, lines: [{ path, figure: figure ?? null }], why },
        }),
      ),
    { put, again: [["sheets"]] },
  );

/** Lays a file's lines over a sheet. */
export const useSayByFile = ({ sheet }: SheetPage) =>
  useWrite(
    async ({ file, why }: { file: File; why: string }) =>
      unwrap(
        client.POST("/api/v1/sheets/{id}/import", {
          params: { path: { id: sheet.id } },
          body: { version: sheet.version, text: await file.text(), why: why || `from ${file.name}` },
        }),
      ),
    { put },
  );

export const useRoutes = () =>
  useQuery({
    queryKey: ["routes"],
    staleTime: 60_000,
    queryFn: async () => (await unwrap(client.GET("/api/v1/routes"))).routes,
  });

/** A route, as the shop goes it. */
export const useRoute = (id: string) =>
  useQuery({
    queryKey: ["route", id],
    queryFn: () => unwrap(client.GET("/api/v1/routes/{id}", { params: { path: { id } } })),
  });

export const useKeepRoute = ({ id, version }: RoutePage) =>
  useWrite(
    (said: { own: OwnRoute; why: string }) =>
      unwrap(client.POST("/api/v1/routes/{id}", { params: { path: { id } }, body: { version, ...said } })),
    { put: (kept) => ["route", kept.id], again: [["routes"]] },
  );
