import { describe, expect, it } from "vitest";
import { clampMm, millimetres, ratioOf, turned } from "./drawn";

describe("what is typed and drawn", () => {
  it("reads lengths as they are typed", () => {
    for (const [text, mm] of [
      ["60 mm", 60],
      ["-60", -60],
      ["−6,5 cm", -65],
      ["2 in", 50.8],
      ["", undefined],
      ["wide", undefined],
      ["4 bar", undefined],
    ] as const) {
      if (mm === undefined) expect(millimetres(text), text).toBeUndefined();
      else expect(millimetres(text), text).toBeCloseTo(mm, 9);
    }
    expect(clampMm(12.6)).toBe(13);
    expect(clampMm(-9999)).toBe(-600);
  });

  it("reads ratios and says them in hundredths", () => {
    expect(ratioOf("4,1")).toBe(4.1);
    expect(ratioOf(" ")).toBeUndefined();
    expect(ratioOf("-1")).toBeUndefined();
    expect(turned(3.999)).toBe("4.00");
    expect(turned(0)).toBe("0.30");
  });
});
