import { expect, test } from "vitest";
import { lifeLeft, lifeWords, wornOf } from "./wear";

const typed = (value: string, fresh: string, limit: string) => ({
  what: "thickness",
  value,
  new: fresh,
  limit,
});

test("bare figures take the unit of the limit", () => {
  const w = wornOf(typed("7,2", "8", "6.4 mm"));
  expect(w).toEqual({
    what: "thickness",
    value: { value: 7.2, unit: "mm" },
    new: { value: 8, unit: "mm" },
    limit: { value: 6.4, unit: "mm" },
  });
  expect(wornOf(typed("0.3", "0.31 in", "0.28 in"))?.value.unit).toBe("in");
  expect(wornOf(typed("7.2", "", "6.4"))).toBeUndefined();
  expect(wornOf({ ...typed("7", "8", "6"), what: " " })).toBeUndefined();
});

const left = (value: string, fresh: string, limit: string) => {
  const w = wornOf(typed(value, fresh, limit));
  return w && lifeLeft(w);
};

test("life is the share of the wear that is left, whichever way it wears", () => {
  expect(left("7.2", "8", "6.4")).toBeCloseTo(0.5);
  expect(left("0.6", "0.1", "0.5")).toBeCloseTo(-0.25);
  expect(left("1 in", "8 mm", "6 mm")).toBeUndefined();
  expect(left("6", "6", "6")).toBeUndefined();
  expect([lifeWords(-0.1), lifeWords(0), lifeWords(0.384)]).toEqual([
    "beyond its limit",
    "at its limit",
    "38 % of its life left",
  ]);
});
