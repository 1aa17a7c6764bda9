import { describe, expect, it, test } from "vitest";
import { found, nowhere, type Tray, traysOf } from "./trays";

const part = (id: string, name: string, seen = "") => ({
  id,
  name,
  seen,
  step: "strip",
  title: "Apart",
  fitted: false,
});
const trays: Tray[] = [
  { name: "A1", parts: [part("nut", "Flange nut", "collar in"), part("seal", "Seal")] },
  { name: "B2", parts: [part("washer", "Thrust washer", "grooves to the gear")] },
];

describe("a part found loose", () => {
  it("is looked up by its name, its mark or its tray", () => {
    expect(found(trays, "thr was", "").map((t) => t.name)).toEqual(["B2"]);
    expect(found(trays, "grooves", "")[0]?.parts).toHaveLength(1);
    expect(found(trays, "a1 seal", "")[0]?.parts.map((p) => p.id)).toEqual(["seal"]);
    expect(found(trays, "spring", "")).toEqual([]);
  });

  it("leaves all trays there, the one on the label first", () => {
    expect(found(trays, "", "B2").map((t) => t.name)).toEqual(["B2", "A1"]);
    expect(found(trays, "", "").map((t) => t.name)).toEqual(["A1", "B2"]);
  });
});

const onBench = (id: string, more: object) => ({
  id,
  name: id,
  answers: [],
  says: "",
  removed: "removed",
  ...more,
});

test("a part that lies nowhere is told, and trays are in the order of their numbers", () => {
  const parts = [
    onBench("a", { tray: "tray 10" }),
    onBench("b", { tray: "tray 2", photo: "p1" }),
    onBench("c", {}),
    onBench("d", { tray: "tray 2" }),
    onBench("e", { fitted: "fitted" }),
    onBench("f", { removed: "not-found" }),
  ];
  expect(nowhere(parts).map((p) => p.id)).toEqual(["c"]);
  expect(traysOf(parts).map((b) => [b.name, b.parts.map((p) => p.n), b.photo])).toEqual([
    ["tray 2", [2, 4], "p1"],
    ["tray 10", [1], undefined],
  ]);
});
