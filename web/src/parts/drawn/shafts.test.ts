import { expect, test } from "vitest";
import { behindAt, behindBy, facingOf, shaftsOf, subsOf } from "./shafts";
import type { StackPart } from "../../model/types";

const part = (id: string, more: Partial<StackPart> = {}): StackPart => ({
  id,
  name: id,
  answers: [],
  says: "",
  ...more,
});

const box = [
  part("nut", { shape: "nut" }),
  part("hub", { sub: "hub 1-2", shape: "sleeve" }),
  part("ring", { sub: "hub 1-2" }),
  part("gear", { shape: "gear" }),
  part("lay", { shaft: "layshaft" }),
  part("needles", { shaft: "layshaft" }),
];

test("parts lie on their shafts in one numbering", () => {
  const [main, lay] = shaftsOf(box, new Set()).flatMap((l) => l.shafts);
  expect(main?.placed.map((p) => (p.kind === "part" ? `${p.n} ${p.part.id}` : p.name))).toEqual([
    "1 nut",
    "2 hub",
    "3 ring",
    "4 gear",
  ]);
  expect(lay?.name).toBe("layshaft");
  expect(lay?.placed.map((p) => p.kind === "part" && p.n)).toEqual([5, 6]);
  expect(main?.brackets).toHaveLength(1);
  const xs = main?.placed.map((p) => [p.x, p.x + p.size.w]) ?? [];
  xs.slice(1).forEach(([x], i) => expect(x).toBeGreaterThan(xs[i]?.[1] ?? 0));
});

test("short shafts share a line, drawn to one scale", () => {
  const gears = Array.from({ length: 9 }, (_, i) => part(`g${i}`, { shape: "gear" }));
  const short = ["a", "b", "c", "d", "e", "f", "g"].map((shaft) => part(shaft, { shaft }));
  const lines = shaftsOf([...gears, ...short], new Set());
  expect(lines.length).toBeGreaterThan(1);
  expect(lines.length).toBeLessThan(8);
  for (const line of lines) {
    expect(line.width).toBe(lines[0]?.width);
    line.shafts.slice(1).forEach((s, i) => {
      const before = line.shafts[i];
      expect(s.at).toBeGreaterThan((before?.at ?? 0) + (before?.width ?? 0));
    });
    for (const s of line.shafts) expect(s.at + s.width).toBeLessThanOrEqual(line.width);
  }
});

test("a folded sub-assembly is one block that keeps its numbers", () => {
  const main = shaftsOf(box, new Set(["hub 1-2"]))[0]?.shafts[0];
  expect(main?.placed).toHaveLength(3);
  expect(main?.placed[1]).toMatchObject({ kind: "sub", from: 2, to: 3 });
  expect(main?.brackets).toHaveLength(0);
  expect(subsOf(box)).toEqual(["hub 1-2"]);
});

test("a part dropped lies behind what is left of it", () => {
  const main = shaftsOf(box, new Set())[0]?.shafts[0];
  if (!main) throw new Error("no shaft");
  const gear = main.placed[3];
  expect(behindAt(main, 0, "gear")).toBe("-");
  expect(behindAt(main, (gear?.x ?? 0) + 500, "nut")).toBe("gear");
  expect(behindAt(main, (main.placed[1]?.x ?? 0) + 30, "gear")).toBe("hub");
});

test("a part goes a place sooner or later by key", () => {
  expect(behindBy(box, "ring", -1)).toBe("nut");
  expect(behindBy(box, "hub", -1)).toBe("-");
  expect(behindBy(box, "ring", 1)).toBe("gear");
  expect(behindBy(box, "needles", 1)).toBeUndefined();
  expect(behindBy(box, "nut", -1)).toBeUndefined();
});

test("the way it was found is drawn when its words tell", () => {
  expect(facingOf(part("a", { seen: "faces rear", facing: "front", faces: "lip to the oil" }))).toBe("rear");
  expect(
    facingOf(part("a", { seen: "turned about", facing: "front", faces: "lip to the oil" })),
  ).toBeUndefined();
  expect(facingOf(part("a", { faces: "lip", facing: "front" }))).toBe("front");
});
