import { expect, test } from "vitest";
import { lifeLeft, lifeSure, lifeWords, measured, readingSet, wornOf } from "./wear";

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
  expect(wornOf(typed("0.3", "0.31 in", "0.28 in"))?.value?.unit).toBe("in");
  expect(wornOf(typed("7.2", "", "6.4"))).toBeUndefined();
  expect(wornOf({ ...typed("7", "8", "6"), what: " " })).toBeUndefined();
});

test("several readings stand one behind the other", () => {
  const w = wornOf(typed("7,2 7.25; 7.21 mm", "8", "6.4 mm"));
  expect(w?.value).toBeUndefined();
  expect(w?.readings).toEqual([7.2, 7.25, 7.21].map((value) => ({ value, unit: "mm" })));
  expect(w && measured(w)?.value).toBeCloseTo(7.22);
  expect(wornOf(typed("seven", "8", "6.4"))).toBeUndefined();
  expect(lifeSure({ what: "gap", new: q(2), limit: q(1), value: q(1.5), sure: q(0.1) })).toBeCloseTo(0.1);
});

test("the reading set is asked when there is something to say of how sure it is", () => {
  const one = wornOf(typed("7.2", "8", "6.4 mm"));
  const more = wornOf(typed("0.2 0.3", "0.1", "0.5"));
  const gauge = { id: "c", kind: "caliper", name: "Caliper", resolution: q(0.02) };
  expect(one && readingSet(one, undefined)).toBeUndefined();
  expect(one && readingSet(one, gauge)).toEqual({
    readings: [q(7.2)],
    lower: q(6.4),
    instrument: { name: "Caliper", resolution: q(0.02) },
  });
  expect(more && readingSet(more, undefined)?.upper).toEqual(q(0.5));
});

const q = (value: number) => ({ value, unit: "mm" });

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
