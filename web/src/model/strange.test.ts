import { describe, expect, it } from "vitest";
import type { Unit } from "./types";
import { strange } from "./strange";

const units = [
  { symbol: "mm", factor: 1e-3, decimals: 2 },
  { symbol: "thou", factor: 25.4e-6, decimals: 1 },
] as Unit[];
const thou = (...values: number[]) => values.map((value) => ({ value, unit: "thou" }));

describe("a value an order away", () => {
  it.each([
    ["0.61", "thou", thou(24, 24.5), "0.61 thou is 39 times smaller than 24.5 thou. Is that right?"],
    ["0,61", "thou", thou(24), "0.61 thou is 39 times smaller than 24.0 thou. Is that right?"],
    ["24 mm", "thou", thou(24), "24 mm is 39 times larger than 24.0 thou. Is that right?"],
    ["0.61 mm", "thou", thou(24), undefined],
    ["30", "thou", thou(24), undefined],
    ["0.61", "thou", [], undefined],
    ["0", "thou", thou(24), undefined],
    ["0.5", "thou", thou(-6, 7), undefined],
    ["0.5", "thou", thou(0.4, 7), undefined],
    ["0.6z", "thou", thou(24), undefined],
    ["0.61", "furlong", thou(24), undefined],
  ])("%s %s beside %j", (typed, unit, beside, asked) => {
    expect(strange(typed, unit, beside, units)).toBe(asked);
  });
});
