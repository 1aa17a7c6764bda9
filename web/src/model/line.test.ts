import { describe, expect, it } from "vitest";
import { rowsOf, typedOf } from "./asked";
import { hung, membersOf, renamed, without } from "./line";

const start = [
  { id: "ring", says: "Ring and pinion", kind: "gear", a: "propshaft", b: "carrier", ratio: null },
  { id: "diff", says: "Differential", kind: "differential", carrier: "carrier", a: "left", b: "right" },
];
const rows = rowsOf(start);
const typed = typedOf(start);

describe("a driveline being drawn", () => {
  it("can be drawn before everything is said", () => {
    expect(membersOf(rows, typed)[0]).toEqual({
      id: "ring",
      says: "Ring and pinion",
      kind: "gear",
      a: "propshaft",
      b: "carrier",
    });
    expect(membersOf(rows, { ...typed, "0.ratio": "4,1" })[0]?.ratio).toBe(4.1);
  });

  it("takes a member more at a shaft, with names nobody has", () => {
    const once = hung(rows, typed, "left", "shaft");
    expect(membersOf(once.rows, once.typed)[2]).toMatchObject({ kind: "shaft", a: "left", b: "left-out" });
    const twice = hung(once.rows, once.typed, "left", "shaft");
    expect(membersOf(twice.rows, twice.typed)[3]).toMatchObject({ id: "left-shaft-2", b: "left-out-2" });
    const parted = hung(rows, typed, "left", "differential");
    expect(membersOf(parted.rows, parted.typed)[2]).toMatchObject({ carrier: "left", a: "left-left" });
  });

  it("loses one and keeps what the others say", () => {
    const left = without(rows, typed, 0);
    expect(left.rows).toHaveLength(1);
    expect(membersOf(left.rows, left.typed)[0]?.id).toBe("diff");
  });

  it("calls a shaft otherwise wherever it is named", () => {
    const now = renamed(rows, typed, "carrier", "case");
    expect(membersOf(rows, now).map((m) => [m.b, m.carrier])).toEqual([
      ["case", undefined],
      ["right", "case"],
    ]);
    expect(now["0.id"]).toBe("ring");
  });
});
