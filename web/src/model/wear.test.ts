import { expect, test } from "vitest";
import { lifeWords, wornOf } from "./wear";

const typed = (value: string, fresh: string, limit: string) => ({
  what: "thickness",
  value,
  new: fresh,
  limit,
});

test("bare figures take the unit of the limit", () => {
  expect(wornOf(typed("7,2", "8", "6.4 mm"))).toEqual({
    what: "thickness",
    value: "7,2 mm",
    new: "8 mm",
    limit: "6.4 mm",
  });
  expect(wornOf(typed("0.3", "0.31 in", "0.28 in"))?.value).toBe("0.3 in");
  expect(wornOf(typed("7.2", "8", "6.4"))?.limit).toBe("6.4 mm");
  expect(wornOf(typed("7.2", "", "6.4"))).toBeUndefined();
  expect(wornOf({ ...typed("7", "8", "6"), what: " " })).toBeUndefined();
});

test("several readings stand one behind the other, as they were typed", () => {
  const w = wornOf(typed("7,2 7.25; 7.21 mm", "8", "6.4 mm"));
  expect(w?.value).toBeUndefined();
  expect(w?.readings).toEqual(["7,2 mm", "7.25 mm", "7.21 mm"]);
});

test("what is left is said in words", () => {
  expect([lifeWords(-0.1), lifeWords(0), lifeWords(0.384)]).toEqual([
    "beyond its limit",
    "at its limit",
    "38 % wear left",
  ]);
});
