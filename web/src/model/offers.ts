import type { Assembly, Customer, Found, Rebuild, Vehicle } from "./types";
import type { Listed } from "./wanted";
import { begun, broughtFor, ownerOf, serialOf } from "./words";

/** What is offered for what was typed: something known, or something new. */
export type Offer = {
  what: "rebuild" | "customer" | "vehicle" | "unit" | "family" | "calculator" | "new";
  of: string;
  title: string;
  more?: string;
  right?: string;
};

/** The place of an offer in its list; two of a kind never share an id. */
export const keyOf = (o: Offer) => `${o.what}:${o.of}`;

const listed = (...parts: (string | undefined)[]) => parts.filter((p) => p).join(", ");

const fresh = (title: string, typed: string, right: string): Offer => ({
  what: "new",
  of: "new",
  title,
  right,
  ...(typed.trim() && { more: `“${typed.trim()}”` }),
});

const ofCustomer = (c: Customer): Offer => ({
  what: "customer",
  of: c.id,
  title: c.name,
  more: listed(c.phone, c.mail),
});

const ofVehicle = (v: Vehicle, owner = v.owner): Offer => ({
  what: "vehicle",
  of: v.id,
  title: v.name,
  more: listed(v.registration, owner),
});

/**
 * What is known comes as it is found; something new is offered once all that
 * fits is on the list, so that a quick hand adds nobody twice.
 */
export type Looked = { found: Found | undefined; typed: string; settled: boolean };

/** Whoever fits, then what he may have brought before: a vehicle or a unit says the customer too. */
export function customerOffers({ found, typed, settled }: Looked): Offer[] {
  if (!typed.trim()) return [];
  return [
    ...(found?.customers ?? []).filter((c) => !c.erased_at).map(ofCustomer),
    ...(found?.vehicles ?? []).map((v) => ofVehicle(v)),
    ...(found?.units ?? []).map(ofUnit),
    ...(settled ? [fresh("New customer:", typed, "give name and telephone")] : []),
  ];
}

const has = (typed: string, ...texts: (string | undefined)[]) => {
  const all = texts.join(" ").toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
};

/** The customer's own vehicles first; one of somebody else changes its owner. */
export function vehicleOffers(own: readonly Vehicle[], { found, typed, settled }: Looked): Offer[] {
  const others = typed.trim() ? (found?.vehicles ?? []).filter((v) => !own.some((o) => o.id === v.id)) : [];
  return [
    ...own.filter((v) => has(typed, v.name, v.registration)).map((v) => ofVehicle(v, "")),
    ...others.map((v) => ({ ...ofVehicle(v), right: "now belongs to this customer" })),
    ...(settled ? [fresh("New vehicle:", typed, "name, registration")] : []),
  ];
}

const ofUnit = (u: NonNullable<Found["units"]>[number]): Offer => ({
  what: "unit",
  of: u.id,
  title: u.name,
  more: `${serialOf(u)}, out of ${u.vehicle_name}`,
  ...(u.open && { right: `${u.open} being worked on` }),
});

/**
 * The vehicle's own units first, then one that sits elsewhere, then a family with a spec sheet, then
 * anything.
 */
export function unitOffers(
  own: readonly Assembly[],
  { found, typed, settled }: Looked,
  vehicle: string,
): Offer[] {
  const asked = typed.trim() !== "";
  const elsewhere = asked ? (found?.units ?? []).filter((u) => u.vehicle !== vehicle) : [];
  const here = own.filter((u) => has(typed, u.name, u.serial, u.kind));
  return [
    ...here.map((u): Offer => {
      const open = found?.units?.find((f) => f.id === u.id)?.open;
      return {
        what: "unit",
        of: u.id,
        title: u.name,
        more: serialOf(u),
        right: open ? `${open} being worked on` : "from this vehicle",
      };
    }),
    ...elsewhere.map((u) => ({
      ...ofUnit(u),
      right: u.open ? `${u.open} being worked on` : "moves to this vehicle",
    })),
    ...(asked ? (found?.sheets ?? []) : []).map((s): Offer => ({
      what: "family",
      of: s.id,
      title: s.family,
      more: `has a spec sheet, version ${s.version}`,
      right: "new serial",
    })),
    ...(settled ? [fresh("New kind of unit:", typed, "clutch, gearbox, axle, transfer case")] : []),
  ];
}

const ofRebuild = (r: Rebuild): Offer => ({
  what: "rebuild",
  of: r.id,
  title: `${r.number}  ${r.unit.name}`,
  more: listed(r.vehicle.name, ownerOf(r), serialOf(r.unit), broughtFor(r)),
  right: r.place.closed ? `handed over, opened ${r.opened_at.slice(0, 10)}` : `promised ${r.place.promised}`,
});

/** Beside what is known of the shop, the calculators that fit best. */
const fewCalculators = 3;

/** Everything that was found, in groups. */
export function findings(found: Found, calculators: readonly Listed[]): { title: string; offers: Offer[] }[] {
  const groups: { title: string; offers: Offer[] }[] = [
    { title: "Rebuilds", offers: found.rebuilds.map(ofRebuild) },
    { title: "Units", offers: found.units.map(ofUnit) },
    { title: "Customers", offers: found.customers.filter((c) => !c.erased_at).map(ofCustomer) },
    {
      title: "Vehicles",
      offers: found.vehicles
        .filter((v) => v.customer)
        .map((v) => ({ ...ofVehicle(v), of: v.customer ?? "" })),
    },
    {
      title: "Spec sheets",
      offers: found.sheets.map((s): Offer => ({
        what: "family",
        of: s.id,
        title: s.family,
        right: `version ${s.version}`,
      })),
    },
    {
      title: "Calculators",
      offers: calculators.slice(0, fewCalculators).map((c): Offer => ({
        what: "calculator",
        of: c.name,
        title: begun(c.name.replaceAll("-", " ")),
        more: c.purpose,
      })),
    },
  ];
  return groups.filter((g) => g.offers.length > 0);
}
