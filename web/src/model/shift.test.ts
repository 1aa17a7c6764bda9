import { describe, expect, it } from "vitest";
import { beside, cellsOf, nextCell } from "./shift";

const ask = (id: string) => ({ ask: { id, text: id }, entry: undefined });
const cells = cellsOf(
  ["gear-1-engine-off", "gear-1-standing", "gear-2-engine-off", "gear-2-standing", "other"].map(ask),
);

describe("the cells of a gearbox tried", () => {
  it("are the questions that name a gear and a state", () => {
    expect(cells).toHaveLength(4);
    expect(cells[2]).toMatchObject({ gear: "2", row: "engine-off" });
    expect(cellsOf([ask("gear-r-warm")])[0]).toMatchObject({ gear: "R", row: "warm" });
  });

  it("are gone through gear by gear, row by row", () => {
    const walked = ["gear-1-engine-off"];
    for (let i = 0; i < 4; i++) walked.push(nextCell(cells, walked.at(-1) ?? "") ?? "");
    expect(walked).toEqual([
      "gear-1-engine-off",
      "gear-2-engine-off",
      "gear-1-standing",
      "gear-2-standing",
      "gear-1-engine-off",
    ]);
  });

  it("lie beside each other as they are drawn", () => {
    expect(beside(cells, "gear-1-engine-off", [1, 0])).toBe("gear-2-engine-off");
    expect(beside(cells, "gear-1-engine-off", [0, 1])).toBe("gear-1-standing");
    expect(beside(cells, "gear-2-standing", [1, 1])).toBe("gear-2-standing");
    expect(beside(cells, "gear-2-standing", [-99, 0])).toBe("gear-1-standing"); // Home
  });
});
