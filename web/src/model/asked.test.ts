import { describe, expect, it } from "vitest";
import { fieldsOf, figureOf, flat, rowsOf, saidOf, typedOf, whole } from "./asked";
import type { FigureView } from "./types";

const figure = (shape: FigureView["shape"], more: Partial<FigureView> = {}): FigureView => ({
  path: "figures.x",
  title: "X",
  called: "x",
  shape,
  ...more,
});

describe("a figure as it is typed", () => {
  it("is one value, with the unit at hand or its own", () => {
    expect(figureOf(figure("quantity"), { value: "7" }, "thou", undefined, [])).toBe("7 thou");
    expect(figureOf(figure("quantity"), { value: "0.2 mm" }, "thou", undefined, [])).toBe("0.2 mm");
    expect(figureOf(figure("number"), { value: "4,1" }, "", undefined, [])).toBe("4,1");
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
      bolts: "6",
      torque: "130 N·m",
      tolerance: "8 %",
    });
    const turned = { bolts: "6", torque: "30", tolerance: "5", angle_deg: "90" };
    expect(figureOf(figure("torque"), turned, "N·m", undefined, [])).toMatchObject({ angle_deg: "90" });
    expect(
      figureOf(figure("torque"), { ...turned, angle_deg: "" }, "N·m", undefined, [], { angle_deg: 90 }),
    ).not.toHaveProperty("angle_deg");
    expect(figureOf(figure("torque"), { ...turned, bolts: "" }, "N·m", undefined, [])).toBeUndefined();
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
      { name: "first", ratio: "3.6" },
      { name: "second", ratio: "2,1" },
    ]);
    const way = [{ id: "rebuild", parts: { low: null } }];
    expect(flat(way[0]).map(([n]) => n)).toEqual(["id", "parts.low"]);
    expect(fieldsOf(figure("rows"), way)[0]?.map((c) => c.name)).toEqual(["0.parts.low"]);
    expect(figureOf(figure("rows"), { "0.id": "1", "0.parts.low": "200" }, "", way, way)).toEqual([
      { id: "1", parts: { low: "200" } },
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

/** A figure opened for correction and closed again, nothing typed. */
function untouched(f: FigureView, now: unknown) {
  const { typed, unit = "", start } = saidOf(f, now);
  return figureOf(f, typed, unit, start, start === undefined ? [] : rowsOf(start), now);
}

describe("a way or a kit that is asked for", () => {
  const ways = [{ id: "rebuild", says: "Rebuild here", failure_chance: { low: null, high: null } }];

  it("is called as people call it, and no id is asked", () => {
    expect(fieldsOf(figure("rows"), ways)[0]?.map((c) => c.label)).toEqual([
      "what it is",
      "Has to be done again, of 100, at least",
      "Has to be done again, of 100, at most",
    ]);
  });

  it("takes a chance of a hundred, and shows it so", () => {
    const typed = { ...typedOf(ways), "0.failure_chance.low": "3", "0.failure_chance.high": "12,5" };
    const made = figureOf(figure("rows"), typed, "", ways, rowsOf(ways));
    expect(made).toEqual([
      { id: "rebuild", says: "Rebuild here", failure_chance: { low: "3 %", high: "12,5 %" } },
    ]);
    expect(typedOf([{ failure_chance: { high: 0.125 } }])["0.failure_chance.high"]).toBe("12.5");
    expect(untouched(figure("rows"), made)).toEqual(made);
  });

  it("asks no id: the server gives one by the name", () => {
    const kits = [{ id: null, name: null, holds: null }];
    const say = (name: string) =>
      figureOf(figure("rows"), { "0.name": name, "0.holds": "seal" }, "", kits, rowsOf(kits));
    expect(say("Seal set, B!")).toEqual([{ name: "Seal set, B!", holds: "seal" }]);
    expect(say("")).toBeUndefined();
  });
});

describe("a figure that a sheet says already", () => {
  it("is the same after the editor when nobody corrected it", () => {
    const mm = { unit: "mm" };
    for (const [f, now] of [
      [figure("quantity", mm), "0.15 mm"],
      [figure("limit", mm), { max: "0.1 mm" }],
      [figure("limit", mm), { min: "0.05 mm", max: "0.15 mm" }],
      [figure("fill", { unit: "L" }), { min: "2 L", max: "2.2 L" }],
      [figure("number"), "4.1"],
      [figure("yes-no"), false],
      [figure("word"), "GL-4"],
      [figure("rows"), [{ name: "first", ratio: "3.6" }]],
    ] as const) {
      expect(untouched(f, now)).toEqual(now);
    }
  });

  it("keeps both units where a limit's sides have different ones", () => {
    expect(untouched(figure("limit", { unit: "mm" }), { min: "2 thou", max: "0.15 mm" })).toEqual({
      min: "2 thou",
      max: "0.15 mm",
    });
  });

  it("keeps what else a group of bolts says", () => {
    const group = {
      name: "Cover",
      bolts: "8",
      torque: "24 N·m",
      tolerance: "6 %",
      passes: [0.4, 0.7, 1],
      layout: "ring",
    };
    expect(untouched(figure("torque", { unit: "N·m" }), { ...group, bolts: 8, tolerance: 0.06 })).toEqual(
      group,
    );
  });
});

it("a line may say what it did not say before, or go on without it", () => {
  const figure = {
    path: "singles",
    title: "Parts",
    shape: "rows" as const,
    starts: [
      { title: "one", value: [{ part: null, price: null, pack: 1, days: { low: null, high: null } }] },
    ],
  };
  const now = [{ price: "5", part: "seal" }];
  const rows = whole(figure, now);
  expect(fieldsOf(figure, rows)[0]?.map((c) => c.name)).toEqual([
    "0.part",
    "0.price",
    "0.pack",
    "0.days.low",
    "0.days.high",
  ]);
  const typed = typedOf(now);
  expect(figureOf(figure, typed, "", now, rows)).toEqual(now);
  expect(figureOf(figure, { ...typed, "0.pack": "10", "0.days.low": "1" }, "", now, rows)).toEqual([
    { part: "seal", price: "5", pack: "10", days: { low: "1" } },
  ]);
});
