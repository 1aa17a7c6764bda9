import { expect, test } from "vitest";
import { spoken, valueAt, withAt } from "./at";

const fields = { arm: "500 mm", forward: ["110 N", "112 N"], left: { plates: ["2 mm"], depth: "9.6 mm" } };

test("a path leads to what stands there", () => {
  expect(valueAt(fields, "arm")).toBe("500 mm");
  expect(valueAt(fields, "forward[1]")).toBe("112 N");
  expect(valueAt(fields, "left.plates[0]")).toBe("2 mm");
  expect(valueAt(fields, "left.plates[3].x")).toBeUndefined();
});

test("a text is put at its path and nothing else changes", () => {
  expect(withAt(fields, "left.plates[0]", "3 mm")).toEqual({
    ...fields,
    left: { ...fields.left, plates: ["3 mm"] },
  });
  expect(withAt(fields, "forward[2]", "1 N").forward).toEqual(["110 N", "112 N", "1 N"]);
  expect(withAt(fields, "forward[9]", "1 N").forward).toEqual(["110 N", "112 N", "1 N"]);
  expect(withAt({}, "right.depth", "1 mm")).toEqual({ right: { depth: "1 mm" } });
  expect(fields.left.plates).toEqual(["2 mm"]);
});

test("a path is said as one says it", () => {
  const words = (name: string) => ({ finals: "final drives", trial_pack: "pack in it" })[name] ?? name;
  expect(spoken("finals[1].teeth[0]", words)).toBe("final drives 2, teeth 1");
  expect(spoken("trial_pack", words)).toBe("pack in it");
  expect(spoken("", words)).toBe("");
});
