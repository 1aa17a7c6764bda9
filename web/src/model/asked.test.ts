import { describe, expect, it } from "vitest";
import { fieldsOf, figureOf, flat, rowsOf, typedOf } from "./asked";
import type { FigureView } from "./types";

const figure = (shape: FigureView["shape"], more: Partial<FigureView> = {}): FigureView => ({
  path: "figures.x",
  title: "X",
  shape,
  ...more,
});

describe("a figure as it is typed", () => {
  it("is one value, with the unit at hand or its own", () => {
    expect(figureOf(figure("quantity"), { value: "7" }, "thou", undefined, [])).toBe("7 thou");
    expect(figureOf(figure("quantity"), { value: "0.2 mm" }, "thou", undefined, [])).toBe("0.2 mm");
    expect(figureOf(figure("number"), { value: "4,1" }, "", undefined, [])).toBe(4.1);
    expect(figureOf(figure("number"), { value: "four" }, "", undefined, [])).toBeUndefined();
    expect(figureOf(figure("yes-no"), { value: "no" }, "", undefined, [])).toBe(false);
    expect(figureOf(figure("word"), {}, "", undefined, [])).toBeUndefined();
  });

  it("is a limit with one side or both, a fill with both", () => {
    expect(figureOf(figure("limit"), { max: "0.1" }, "mm", undefined, [])).toEqual({ max: "0.1 mm" });
    expect(figureOf(figure("limit"), {}, "mm", undefined, [])).toBeUndefined();
    expect(figureOf(figure("fill"), { min: "2" }, "L", undefined, [])).toBeUndefined();
    expect(figureOf(figure("fill"), { min: "2", max: "2.2" }, "L", undefined, [])).toEqual({
      min: "2 L",
      max: "2.2 L",
    });
  });

  it("is a group of bolts", () => {
    expect(
      figureOf(figure("torque"), { bolts: "6", torque: "130", tolerance: "8" }, "N·m", undefined, []),
    ).toEqual({
      name: "X",
      bolts: 6,
      torque: "130 N·m",
      tolerance: 0.08,
    });
    expect(
      figureOf(figure("torque"), { bolts: "6.5", torque: "130", tolerance: "8" }, "N·m", undefined, []),
    ).toBeUndefined();
  });

  it("is a structure, filled in where its start says nothing", () => {
    const gears = [
      { name: "first", ratio: null },
      { name: "second", ratio: null },
    ];
    expect(typedOf(gears)).toEqual({ "0.name": "first", "1.name": "second" });
    const typed = { ...typedOf(gears), "0.ratio": "3.6" };
    expect(figureOf(figure("rows"), typed, "", gears, rowsOf(gears))).toBeUndefined();
    expect(figureOf(figure("rows"), { ...typed, "1.ratio": "2,1" }, "", gears, rowsOf(gears))).toEqual([
      { name: "first", ratio: 3.6 },
      { name: "second", ratio: 2.1 },
    ]);
    const way = [{ id: "rebuild", parts: { low: null } }];
    expect(flat(way[0]).map(([n]) => n)).toEqual(["id", "parts.low"]);
    expect(fieldsOf(figure("rows"), way)[0]?.map((c) => c.name)).toEqual(["0.id", "0.parts.low"]);
    expect(figureOf(figure("rows"), { "0.id": "1", "0.parts.low": "200" }, "", way, way)).toEqual([
      { id: "1", parts: { low: 200 } },
    ]);
    expect(figureOf(figure("rows"), { "0": "left", "1": "right" }, "", ["a", "b"], ["a", "b"])).toEqual([
      "left",
      "right",
    ]);
    expect(
      figureOf(figure("rows"), { "0.size": "205/75 R16" }, "", { size: null }, [{ size: null }]),
    ).toEqual({ size: "205/75 R16" });
  });
});
