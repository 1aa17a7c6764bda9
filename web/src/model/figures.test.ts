import { describe, expect, it } from "vitest";
import { inWords } from "./figures";

describe("figures of any result", () => {
  const { value } = inWords(
    (key) => (key === "tir" ? "total runout" : key),
    [{ symbol: "mm", dimension: "length", system: "metric", factor: 0.001, decimals: 2, paired: "thou" }],
  );

  it.each([
    [{ value: 0.5, unit: "mm" }, "0.500 mm"],
    [-12.3456, "−12.3"],
    [1234.5, "1235"],
    [3, "3"],
    [true, "yes"],
    [[1, 2], "1; 2"],
    [{ size: { value: 1, unit: "mm" }, tir: 0.25, none: null }, "1.000 mm, total runout 0.250"],
    [undefined, ""],
  ])("%j is said %s", (v, says) => {
    expect(value(v)).toBe(says);
  });
});
