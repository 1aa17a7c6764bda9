import { describe, expect, it } from "vitest";
import { customerOffers, findings, keyOf, unitOffers, vehicleOffers } from "./offers";
import type { Found, Vehicle } from "./types";

const lorry: Vehicle = {
  id: "v1",
  name: "Old lorry",
  owner: "Nora Quill",
  registration: "QX 77",
  customer: "c1",
  units: [{ id: "u1", kind: "axle", name: "Grim", serial: "GR-1", sheet: "s", route: "r" }],
};
const found: Found = {
  rebuilds: [],
  customers: [
    { id: "c1", name: "Nora Quill", phone: "0 55 12", since: "2026-01-01T00:00:00Z" },
    { id: "c2", name: "", since: "2026-01-01T00:00:00Z", erased_at: "2026-02-01T00:00:00Z" },
  ],
  vehicles: [lorry],
  units: [
    {
      id: "u1",
      kind: "axle",
      name: "Grim",
      serial: "GR-1",
      sheet: "s",
      route: "r",
      vehicle: "v1",
      vehicle_name: "Old lorry",
      open: "26-004",
    },
  ],
  sheets: [{ id: "s", family: "Grim", version: 2 }],
};
const titles = (offers: { what: string; title: string }[]) => offers.map((o) => `${o.what} ${o.title}`);

describe("what intake offers", () => {
  it("offers who is known before somebody new, and nobody who was erased", () => {
    expect(titles(customerOffers({ found, typed: "n", settled: true }))).toEqual([
      "customer Nora Quill",
      "vehicle Old lorry",
      "unit Grim",
      "new New customer:",
    ]);
  });
  it("offers nobody new while it still looks, and nothing for nothing", () => {
    expect(titles(customerOffers({ found, typed: "n", settled: false }))).not.toContain("new New customer:");
    expect(customerOffers({ found: undefined, typed: " ", settled: true })).toEqual([]);
  });
  it("says of another's vehicle that it now belongs to this customer", () => {
    const offers = vehicleOffers([], { found, typed: "lorry", settled: true });
    expect(offers[0]?.right).toBe("now belongs to this customer");
    expect(vehicleOffers([lorry], { found, typed: "qx", settled: true })).toHaveLength(2);
    expect(titles(vehicleOffers([lorry], { found: undefined, typed: "van", settled: true }))).toEqual([
      "new New vehicle:",
    ]);
  });
  it("says of a unit whether it is in work, sits elsewhere, or is of a known family", () => {
    const here = unitOffers(lorry.units ?? [], { found, typed: "grim", settled: true }, "v1");
    expect(here.map((o) => o.right)).toEqual([
      "26-004 being worked on",
      "new serial",
      "clutch, gearbox, axle, transfer case",
    ]);
    const elsewhere = unitOffers([], { found, typed: "grim", settled: true }, "v2");
    expect(elsewhere[0]?.right).toBe("26-004 being worked on");
    expect(new Set(elsewhere.map(keyOf)).size).toBe(elsewhere.length);
  });
});

describe("findings", () => {
  it("come in groups, without empty ones and without the erased", () => {
    const drill = { name: "tap-drill", purpose: "the drill before a tap", group: "Assemble" };
    const groups = findings(found, [drill]);
    expect(groups.map((g) => g.title)).toEqual([
      "Units",
      "Customers",
      "Vehicles",
      "Spec sheets",
      "Calculators",
    ]);
    expect(groups.at(-1)?.offers[0]?.title).toBe("Tap drill");
    expect(groups[1]?.offers).toHaveLength(1);
  });
});
