import type { PersonView } from "../../model/types";

export type Role = PersonView["role"];

/** Who may do what. */
export const roles = [
  { id: "mechanic", text: "Mechanic" },
  { id: "lead", text: "Lead" },
  { id: "reader", text: "View only" },
] as const;

export const roleOf = (id: string): Role => roles.find((r) => r.id === id)?.id ?? "reader";
/** A password somebody is given. */
export const fresh = { type: "password", autoComplete: "new-password", required: true } as const;
