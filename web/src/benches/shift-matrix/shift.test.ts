import { describe, expect, it } from "vitest";
import { beside, cellsOf, nextCell, rowsOf } from "./shift";

const cell = (gear: string, state: "engine_off" | "standing") => ({
  gear,
  state,
  temperature: "cold" as const,
});
const input = {
  cells: [
    cell("1", "engine_off"),
    { ...cell("1", "standing"), feel: "in" as const },
    cell("2", "engine_off"),
    cell("2", "standing"),
  ],
};
const loose = cellsOf(input);
const ids = loose.map((c) => c.id);

describe("the cells of a gearbox tried", () => {
  it("are what the calculator is given, each with its question", () => {
    const ask = { id: "gear-2", text: "Second, standing", feeds: "cells[3].feel", units: [] };
    const cells = cellsOf(input, [{ ask, entry: undefined }]);
    expect(cells[3]).toMatchObject({ id: "gear-2", gear: "2", row: "standing cold" });
    expect(cells[1]).toMatchObject({ feel: "in" as const });
    expect(rowsOf(cells).map((c) => c.state)).toEqual(["engine_off", "standing"]);
    expect(cellsOf({})).toEqual([]);
  });

  it("are gone through gear by gear, row by row", () => {
    const walked = [ids[0] ?? ""];
    for (let i = 0; i < 4; i++) walked.push(nextCell(loose, walked.at(-1) ?? "") ?? "");
    expect(walked).toEqual([ids[0], ids[2], ids[1], ids[3], ids[0]]);
  });

  it("lie beside each other as they are drawn", () => {
    expect(beside(loose, ids[0] ?? "", [1, 0])).toBe(ids[2]);
    expect(beside(loose, ids[0] ?? "", [0, 1])).toBe(ids[1]);
    expect(beside(loose, ids[3] ?? "", [1, 1])).toBe(ids[3]);
    expect(beside(loose, ids[3] ?? "", [-99, 0])).toBe(ids[1]); // Home
  });
});
