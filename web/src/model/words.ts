import type { Rebuild } from "./types";

/** The first letter large, as a sentence begins. */
export const begun = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** A plate may be gone, and the customer not know it. */
export const serialOf = (unit: { serial: string }) =>
  unit.serial ? `serial ${unit.serial}` : "no serial number";

/** Whose unit it is, as it is known now. */
export const ownerOf = (r: Rebuild) => (r.whose?.erased ? "erased" : r.whose?.name || r.vehicle.owner);

/** What he said is wrong, and what he was told then: neither stands without the other. */
export const broughtFor = (r: { complaint: string; told?: string }) =>
  r.told ? `${r.complaint} He was told: ${r.told}` : r.complaint;
