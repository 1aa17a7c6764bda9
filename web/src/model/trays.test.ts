import { describe, expect, it } from "vitest";
import { found, type Tray } from "./trays";

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
