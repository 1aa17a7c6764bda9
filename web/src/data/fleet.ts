import { useQuery } from "@tanstack/react-query";
import type { components } from "../model/schema.gen";
import type { Vehicle } from "../model/types";
import { client, unwrap } from "./client";
import { useWrite } from "./write";

type S = components["schemas"];

export const customerQuery = (id: string) => ({
  queryKey: ["customer", id],
  queryFn: () => unwrap(client.GET("/api/v1/customers/{id}", { params: { path: { id } } })),
});

/** A customer with vehicles and rebuilds. */
export const useCustomer = (id: string) => useQuery({ ...customerQuery(id), enabled: id !== "" });

export const useAddCustomer = () =>
  useWrite((body: S["NewCustomer"]) => unwrap(client.POST("/api/v1/customers", { body })));

export const useReach = (id: string) =>
  useWrite(
    (body: S["NewCustomer"]) =>
      unwrap(client.POST("/api/v1/customers/{id}", { params: { path: { id } }, body })),
    { put: () => ["customer", id] },
  );

/** Forgets a person for good. */
export const useErase = (id: string) =>
  useWrite(() => unwrap(client.POST("/api/v1/customers/{id}/erase", { params: { path: { id } } })), {
    again: [["customer", id]],
  });

export const useAddVehicle = () =>
  useWrite((body: { name: string; registration: string; customer: string }) =>
    unwrap(client.POST("/api/v1/vehicles", { body })),
  );

/** A vehicle changes hands. */
export const giveVehicle = (v: Vehicle, customer: string) =>
  unwrap(
    client.POST("/api/v1/vehicles/{id}", {
      params: { path: { id: v.id } },
      body: {
        name: v.name,
        customer,
        ...(v.registration && { registration: v.registration }),
        ...(v.facts && { facts: v.facts }),
      },
    }),
  );

/** What was found along the way on a vehicle. */
export const useFinds = (vehicle: string | undefined) =>
  useQuery({
    queryKey: ["found", vehicle],
    enabled: vehicle !== undefined,
    queryFn: async () =>
      (await unwrap(client.GET("/api/v1/vehicles/{id}/found", { params: { path: { id: vehicle ?? "" } } })))
        .found,
  });

export const unitQuery = (id: string) => ({
  queryKey: ["unit", id],
  queryFn: () => unwrap(client.GET("/api/v1/units/{id}", { params: { path: { id } } })),
});

/** A unit with the vehicle it sits in and its rebuilds. */
export const useUnit = (id: string) => useQuery({ ...unitQuery(id), enabled: id !== "" });

export const useAddUnit = (vehicle: string) =>
  useWrite((body: S["NewUnit"]) =>
    unwrap(client.POST("/api/v1/vehicles/{id}/units", { params: { path: { id: vehicle } }, body })),
  );

/** A unit is moved to a vehicle, or its gears are counted. */
export const changeUnit = (id: string, body: { vehicle?: string; gears?: number }) =>
  unwrap(client.POST("/api/v1/units/{id}", { params: { path: { id } }, body }));

export const useCountGears = (unit: string) => useWrite((gears: number) => changeUnit(unit, { gears }));

/** Whatever has all the words of a question. */
export const foundQuery = (question: string) => ({
  queryKey: ["find", question],
  queryFn: ({ signal }: { signal: AbortSignal }) =>
    unwrap(client.GET("/api/v1/find", { params: { query: { q: question } }, signal })),
});
