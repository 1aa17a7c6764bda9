import { describe, expect, it } from "vitest";
import { changed, moved, type Part, partsOf, typedPart, typedWords } from "./stack";

const parts: Part[] = [
  { id: "nut", name: "Nut", shape: "nut" },
  { id: "washer", name: "Washer" },
  { id: "gear", name: "Gear" },
];

const choices = { facing: ["front", "rear"], shape: ["nut", "seal", "washer"] };

describe("a stack on its sheet", () => {
  it("takes a part typed in one line", () => {
    expect(typedPart("Output seal, lip to the oil, faces rear", parts, choices)).toEqual({
      id: "output-seal",
      name: "Output seal",
      faces: "lip to the oil",
      facing: "rear",
      shape: "seal",
      once: true,
    });
    expect(typedPart("Washer", parts, choices)?.id).toBe("washer-2");
    expect(typedPart("  , grooves", parts, choices)).toBeUndefined();
    expect(typedPart("Ring, faces nowhere", parts, choices)).toEqual({ id: "ring", name: "Ring" });
  });

  it("takes what else is said of a part", () => {
    const line =
      "Spacer, oil groove, faces rear, tray 3, on the layshaft, in the hub, " +
      "marked two dots, held by six bolts, 2 pcs, 1,52 mm";
    expect(typedWords(line)).toEqual({
      name: "Spacer",
      faces: "oil groove",
      facing: "rear",
      tray: "tray 3",
      shaft: "layshaft",
      sub: "hub",
      mark: "two dots",
      bolts: "six bolts",
      pieces: 2,
      value: "1,52 mm",
    });
    expect(typedPart(line, parts, choices)).toMatchObject({ shaft: "layshaft", sub: "hub", pieces: 2 });
  });

  it("keeps its order but for the one that is moved", () => {
    expect(moved(parts, 1, -1).map((p) => p.id)).toEqual(["washer", "nut", "gear"]);
    expect(moved(parts, 0, -1)).toEqual(parts);
    expect(moved(parts, 2, 1)).toEqual(parts);
  });

  it("says nothing that was taken back", () => {
    const once = changed(parts, 0, { once: true, facing: "rear" });
    expect(once[0]).toEqual({ id: "nut", name: "Nut", shape: "nut", once: true, facing: "rear" });
    expect(changed(once, 0, { once: false, facing: "" })[0]).toEqual(parts[0]);
    expect(partsOf([{ id: "a", name: "A" }, "b", null])).toEqual([{ id: "a", name: "A" }]);
  });
});
