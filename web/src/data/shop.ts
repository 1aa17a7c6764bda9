import { useQuery } from "@tanstack/react-query";
import type { components } from "../model/schema.gen";
import type { DrawerLine, Shop } from "../model/types";
import { client, unwrap } from "./client";
import { useWrite } from "./write";

/** What the shop says of itself. */
export const useShop = () =>
  useQuery({ queryKey: ["shop"], queryFn: () => unwrap(client.GET("/api/v1/shop")) });

export const useKeepShop = (kept: () => void) =>
  useWrite((body: Shop) => unwrap(client.POST("/api/v1/shop", { body })), {
    put: () => ["shop"],
    again: [["session"]],
    after: kept,
  });

export const useGauges = () =>
  useQuery({ queryKey: ["gauges"], queryFn: () => unwrap(client.GET("/api/v1/gauges")) });

export const useKeepGauge = () =>
  useWrite((body: components["schemas"]["GaugeSaid"]) => unwrap(client.POST("/api/v1/gauges", { body })), {
    put: () => ["gauges"],
  });

export const useDrawers = () =>
  useQuery({ queryKey: ["drawers"], queryFn: () => unwrap(client.GET("/api/v1/drawers")) });

export type Count = { title?: string; lines: DrawerLine[]; why: string };

const countDrawer = (id: string, body: Count) =>
  unwrap(client.POST("/api/v1/drawers/{id}", { params: { path: { id } }, body }));

export const useCount = (drawer: string) =>
  useWrite((body: Count) => countDrawer(drawer, body), { put: () => ["drawers"] });

/** Begins a drawer; its id is what was asked for. */
export const useBeginDrawer = () =>
  useWrite(async ({ id, title, lines }: { id: string; title: string; lines: DrawerLine[] }) => {
    await countDrawer(id, { title, lines, why: "counted" });
    return id;
  });

/** Counts a drawer by a file. */
export const useCountByFile = (id: string) =>
  useWrite(
    async (file: File) =>
      unwrap(
        client.POST("/api/v1/drawers/{id}/import", {
          params: { path: { id } },
          body: { text: await file.text(), why: `from ${file.name}` },
        }),
      ),
    { put: () => ["drawers"] },
  );
