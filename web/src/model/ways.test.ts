import { describe, expect, it } from "vitest";
import { boundNamed, boundText, ownWay, scale, type Way, withBound } from "./ways";

const way: Way = {
  id: "rebuild",
  says: "Rebuild here",
  parts: { low: 180, likely: 320, high: 900 },
  labour_hours: { low: 9, high: 20 },
  waiting_days: { low: 2, high: 8 },
  failure_chance: { low: 0.03, high: 0.09 },
  failure_cost: { low: 400, high: 1300 },
};

describe("the ways and their ranges", () => {
  it("says shares in per cent and leaves what was not typed", () => {
    expect(boundText(way, "failure_chance", "low")).toBe("3");
    expect(boundText(way, "labour_hours", "likely")).toBe("");
    const [now] = withBound([way], 0, "failure_chance", "high", "12,5");
    expect(now?.failure_chance).toEqual({ low: 0.03, high: "12,5 %" });
    expect(withBound([way], 0, "parts", "low", "")[0]).toEqual(way);
    expect(withBound([way], 0, "parts", "likely", "")[0]?.parts).toEqual({ low: 180, high: 900 });
    expect(boundText(way, "fluids", "high")).toBe("");
    expect(withBound([way], 0, "fluids", "high", "40")[0]?.fluids).toEqual({ low: 0, high: "40" });
  });

  it("names a bound as the screen does", () => {
    expect(boundNamed("options[0].labour_hours.low", [way])).toBe("Rebuild here, hours of work, at least");
    expect(boundNamed("hourly_rate", [way])).toBe("hourly_rate");
  });

  it("takes a way of one's own under a name nobody has", () => {
    const two = ownWay(ownWay([way], "Repair in place"), "Wait");
    expect(two.map((w) => w.id)).toEqual(["rebuild", "own", "own-2"]);
    expect(two[1]?.says).toBe("Repair in place");
    expect(ownWay([way], "  ")).toHaveLength(1);
  });

  it("stands on a round scale that holds everything", () => {
    for (const most of [0.7, 3, 9, 47, 412, 1999, 2001]) {
      const { end, lines } = scale(most);
      expect(end).toBeGreaterThanOrEqual(most);
      expect(lines.length).toBeLessThanOrEqual(6);
      expect(lines.at(-1)).toBeCloseTo(end);
    }
    expect(scale(0).end).toBe(1);
  });
});
