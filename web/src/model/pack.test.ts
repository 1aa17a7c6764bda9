import { expect, test } from "vitest";
import { drawerNamed, merged, packWords, typedCount, typedPack } from "./pack";

const stock = [{ thickness: { value: 0.54, unit: "mm" }, count: 2 }];

test("a pack as it is typed comes out of the drawer where it holds the size", () => {
  expect(typedPack("0.54 + 2 x 0.30", "mm", stock, false)).toEqual([
    { thickness: "0.54 mm", count: 1 },
    { thickness: "0.30 mm", count: 2, loose: true },
  ]);
  expect(typedPack("0.54 + 0.54", "mm", stock, false)).toEqual([{ thickness: "0.54 mm", count: 2 }]);
  expect(typedPack("0.540", "mm", stock, false)).toEqual([{ thickness: "0.54 mm", count: 1 }]);
});

test("what was found in place comes out of no drawer", () => {
  expect(typedPack("0.54", "mm", stock, true)).toEqual([{ thickness: "0.54 mm", count: 1, loose: true }]);
});

test("a unit that is typed stands, and a size that is missing is no pack", () => {
  expect(typedPack("12 thou", "mm", stock, false)?.[0]?.thickness).toBe("12 thou");
  expect(typedPack("0.54 +", "mm", stock, false)).toBeUndefined();
  expect(typedPack("", "mm", stock, false)).toBeUndefined();
});

test("a pack in words", () => {
  expect(
    packWords([
      { thickness: { value: 0.3, unit: "mm" }, count: 2 },
      { thickness: { value: 0.54, unit: "mm" }, count: 1 },
    ]),
  ).toBe("2 × 0.3 mm + 0.54 mm");
  const one = [{ thickness: { value: 0.3, unit: "mm" }, count: 1 }];
  expect(packWords(one, (q) => `${q.value.toFixed(2)} ${q.unit}`)).toBe("0.30 mm");
});

test("pieces of three packs are taken out of the drawer as one", () => {
  const size = (value: number, count: number) => ({ thickness: { value, unit: "mm" }, count });
  expect(merged([size(1, 1), size(0.5, 1), size(1, 2)])).toEqual([size(1, 3), size(0.5, 1)]);
});

test("a drawer keeps its name as typed and gets an id that nobody has", () => {
  const all = [{ id: "shims-left", title: "Shims, left" }];
  expect(drawerNamed("shims, LEFT", all)).toBe("shims-left");
  expect(drawerNamed("Shims left", all)).toBe("shims-left-2");
  expect(drawerNamed("0.5 mm Scheiben, Ölwanne", all)).toBe("mm-scheiben-lwanne");
  expect(drawerNamed("Шайбы", all)).toBe("drawer");
});

test("a count is a size and a number a line", () => {
  expect(typedCount("0.54 mm 3\n\n20 thou x 4\nnothing")).toEqual({
    lines: [
      { size: "0.54 mm", count: "3" },
      { size: "20 thou", count: "4" },
    ],
    typed: 3,
  });
});
