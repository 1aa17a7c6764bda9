import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { believed } from "../model/json";
import { type InputOf, resultOf } from "../model/results";
import type { Schema } from "../model/schema";
import { calculate, client, unwrap } from "./client";

/** Says a key of a result by the catalogue's words; before they are here, plainly. */
export function useWords() {
  const labels = useCatalogue().data?.labels;
  return (key: string) => labels?.[key] ?? plain(key);
}

/** state.clutch_held is read as: clutch held. */
const plain = (key: string) => key.slice(key.indexOf(".") + 1).replaceAll("_", " ");

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

/** A calculator's worked example with the figures of what was asked in place. */
export const useAsked = (name: string, q: string) =>
  useQuery({
    queryKey: ["asked", name, q],
    enabled: q !== "",
    staleTime: Infinity,
    queryFn: () =>
      unwrap(client.GET("/api/v1/calc/{name}/asked", { params: { path: { name }, query: { q } } })),
  });
