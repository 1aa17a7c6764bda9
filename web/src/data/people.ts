import { useQuery } from "@tanstack/react-query";
import type { PersonChange, PersonView, ProgramAdded } from "../model/types";
import { client, unwrap } from "./client";
import { signedOut } from "./session";
import { useWrite } from "./write";

export const usePeople = () =>
  useQuery({
    queryKey: ["people"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/people"))).people,
  });

const people = { again: [["people"]] };

export const useAddPerson = () =>
  useWrite(
    (body: { login: string; name: string; role: PersonView["role"]; password: string }) =>
      unwrap(client.POST("/api/v1/people", { body })),
    people,
  );

export const useChangePerson = (login: string) =>
  useWrite(
    (body: PersonChange) =>
      unwrap(client.POST("/api/v1/people/{login}", { params: { path: { login } }, body })),
    people,
  );

/** Other programs that work here by a token. */
export const usePrograms = () =>
  useQuery({
    queryKey: ["programs"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/programs"))).programs,
  });

export const useAddProgram = () =>
  useWrite(
    (body: { name: string; writes: boolean; board: boolean }): Promise<ProgramAdded> =>
      unwrap(client.POST("/api/v1/programs", { body })),
    { again: [["programs"]] },
  );

export const useEndProgram = () =>
  useWrite(
    (login: string) => unwrap(client.POST("/api/v1/programs/{login}/end", { params: { path: { login } } })),
    { again: [["programs"]] },
  );

/** The tablets at the bench. */
export const useTablets = () =>
  useQuery({
    queryKey: ["tablets"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/tablets"))).tablets,
  });

/** Makes this screen a tablet: the server ends the session, and the screen is nobody's then. */
export const useEnrol = (enrolled: () => void) =>
  useWrite((name: string) => unwrap(client.POST("/api/v1/tablets", { body: { name } })), {
    after: (_, cache) => {
      signedOut(cache);
      enrolled();
    },
  });

export const useEndTablet = () =>
  useWrite((id: string) => unwrap(client.POST("/api/v1/tablets/{id}/end", { params: { path: { id } } })), {
    again: [["tablets"]],
  });
