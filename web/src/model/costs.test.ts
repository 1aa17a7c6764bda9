import { expect, test } from "vitest";
import { bySurprise, type Cost, costWords, money, sayMinutes } from "./costs";

const cost = (estimated: number | null, soFar: number, over = 0): Pick<Cost, "lines" | "over"> => ({
  over,
  lines: [{ id: "sum", title: "All", estimated, so_far: soFar, coming: 0 }],
});

test("how it stands is said in one sentence", () => {
  expect(costWords(cost(1000, 400))).toBe("400 of 1000; 600 are left.");
  expect(costWords(cost(1000, 1200.5))).toBe("1200.50: 200.50 more than estimated.");
  expect(costWords(cost(1000, 1200, 50))).toBe(
    "50 over what the customer said yes to: ask before more is done.",
  );
  expect(costWords(cost(null, 80))).toContain("no way was decided");
});

test("minutes and money as people say them", () => {
  expect([sayMinutes(0), sayMinutes(59.4), sayMinutes(125)]).toEqual(["0 min", "59 min", "2 h 05"]);
  expect([money(3), money(3.5)]).toEqual(["3", "3.50"]);
});

const step = (step: string, minutes: number, planned?: number) => ({
  step,
  title: step,
  minutes,
  people: [],
  ...(planned && { planned }),
});

test("what took longer than planned comes first", () => {
  expect(bySurprise([step("a", 50, 45), step("b", 10), step("c", 90, 30)]).map((s) => s.step)).toEqual([
    "c",
    "a",
    "b",
  ]);
});
