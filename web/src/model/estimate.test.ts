import { describe, expect, it } from "vitest";
import { estimateOf, sumToAsk } from "./estimate";
import type { WeighedView } from "./types";

const weighed: WeighedView[] = [
  {
    calc: "decide",
    method: "decide/1",
    input: {
      hourly_rate: 58,
      cost_per_day: 45,
      options: [
        {
          id: "rebuild",
          says: "Rebuild here",
          parts: { low: 180, likely: 320, high: 900 },
          labour_hours: { low: 10, high: 14 },
          outside: { low: 0, likely: 60, high: 200 },
        },
      ],
    },
    result: {
      method: "decide/1",
      source: [],
      options: [{ id: "rebuild", cost_p50: 1100, cost_p90: 1423, days_p50: 2 }],
    },
  },
];

describe("the estimate of a way", () => {
  it("is parts and work as usual, and what nine in ten stay below", () => {
    expect(estimateOf(weighed, "rebuild")).toEqual({
      parts: 320,
      fluids: 0,
      outside: 60,
      hours: 12,
      rate: 58,
      work: 696,
      half: 1010,
      nine: 1333,
    });
    expect(estimateOf(weighed, "exchange")).toBeUndefined();
    expect(estimateOf(undefined, "rebuild")).toBeUndefined();
  });

  it("asks for a sum one says aloud, and never for less", () => {
    expect([131, 1333, 2001].map(sumToAsk)).toEqual([140, 1350, 2100]);
    expect(sumToAsk(200)).toBe(200);
  });
});
