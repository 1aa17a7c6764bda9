import { expect, it } from "vitest";
import { several } from "./several";

it("says one and many", () => {
  expect([0, 1, 2].map((n) => several(n, "day"))).toEqual(["0 days", "1 day", "2 days"]);
  expect([1, 3].map((n) => several(n, "entry", "entries"))).toEqual(["1 entry", "3 entries"]);
});
