import { useQuery } from "@tanstack/react-query";
import type { InputOf } from "../model/results";
import type { components } from "../model/schema.gen";
import { client, unwrap } from "./client";
import { useWrite } from "./write";

export type PracticeRun = components["schemas"]["PracticeRun"];
export type PracticeTask = components["schemas"]["PracticeTask"];

export const usePractice = () =>
  useQuery({ queryKey: ["practice"], queryFn: () => unwrap(client.GET("/api/v1/practice")) });

export const useSetPractice = () =>
  useWrite(
    (body: components["schemas"]["PracticeSet"]) => unwrap(client.POST("/api/v1/practice/tasks", { body })),
    { put: () => ["practice"] },
  );

/** Keeps how a practice went; the same acts once. */
export const useKeepPractice = () =>
  useWrite((body: InputOf<"practice">) => unwrap(client.POST("/api/v1/practice/runs", { body })), {
    put: () => ["practice"],
  });
