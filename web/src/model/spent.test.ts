import { expect, test } from "vitest";
import { begun, idleAfter, seconds, touched } from "./spent";

test("time runs from opening a step", () => {
  const s = begun(1_000);
  expect(seconds(s, 61_000)).toBe(60);
  expect(seconds(touched(s, 30_000), 61_000)).toBe(60);
});

test("a rest is not counted, and what follows it begins anew", () => {
  const s = touched(begun(0), 120_000);
  const back = 120_000 + idleAfter + 1;
  expect(seconds(s, back)).toBe(120);
  const again = touched(s, back);
  expect(seconds(again, back + 5_000)).toBe(5);
});

test("a clock that was set back counts nothing", () => {
  expect(seconds(begun(10_000), 4_000)).toBe(0);
});
