// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { believed } from "../model/json";
import type { Verdict as V } from "../model/types";
import { stage, units } from "../test/stage";
import { NumberLine } from "./NumberLine";
import { Verdict, verdictOf } from "./Verdict";

describe("a verdict", () => {
  it.each<[V, string, string]>([
    ["in", "In", "circle"],
    ["out", "Out", "rect"],
    ["undecided", "Undecided", "path"],
    ["none", "Not measured", "circle"],
  ])("%s is a word and a shape of its own", (verdict, says, shape) => {
    const { container } = stage(<Verdict verdict={verdict} />);
    expect(container.textContent).toBe(says);
    expect(container.querySelector(`svg > ${shape}`)).toBeTruthy();
  });

  it("says by how much it is out, and on which side", () => {
    const { container, again } = stage(
      <Verdict verdict="out" beyond={{ value: 0.46, unit: "mm" }} units={units} />,
    );
    expect(container.textContent).toBe("Out by 0.46");
    again(<Verdict verdict="out" beyond={{ value: -0.1, unit: "mm" }} units={units} />);
    expect(container.textContent).toBe("Out: 0.10 too small");
  });

  it("of a list is taken for none where it is no word of ours", () => {
    expect(["in", "out", "undecided", "perhaps", 3, null].map(verdictOf)).toEqual([
      "in",
      "out",
      "undecided",
      "none",
      "none",
      "none",
    ]);
  });
});

describe("a number line", () => {
  const line = (more: { lower?: number; upper?: number; value: number }) => (
    <NumberLine uncertainty={0.02} unit="mm" verdict="in" decimals={2} {...more} />
  );

  it("is read aloud with its uncertainty and its limits", () => {
    stage(line({ value: 0.1, lower: 0.05, upper: 0.15 }));
    expect(screen.getByRole("img", { name: "0.10 ± 0.02 mm, limits 0.05 to 0.15" })).toBeTruthy();
  });

  it("draws a limit where there is one, and none where there is none", () => {
    const { container, again } = stage(line({ value: 0.1, upper: 0.15 }));
    expect(container.querySelectorAll("line.stroke-in")).toHaveLength(1);
    expect(screen.getByRole("img", { name: /at most 0.15/ })).toBeTruthy();
    again(line({ value: 0.1 }));
    expect(container.querySelectorAll("line.stroke-in")).toHaveLength(0);
  });

  it("has everything on it, whatever lies far out", () => {
    const { container } = stage(line({ value: 2.5, lower: 0.05, upper: 0.15 }));
    const at = [...container.querySelectorAll("line")].flatMap((l) => [
      l.getAttribute("x1"),
      l.getAttribute("x2"),
    ]);
    for (const x of at.filter((v) => v !== null)) {
      expect(believed<number>(JSON.parse(x))).toBeGreaterThanOrEqual(0);
      expect(believed<number>(JSON.parse(x))).toBeLessThanOrEqual(272);
    }
  });
});
