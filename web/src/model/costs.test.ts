import { expect, test } from "vitest";
import { bySurprise, money, sayMinutes } from "./costs";

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
