import { expect, test } from "vitest";
import { heldOf, heldText, holding, idNamed, partNamed } from "./sold";

const known = [
  { id: "input-seal", name: "Seal of the input" },
  { id: "circlip", name: "Circlip" },
];

test("what a kit holds is read and written as people say it", () => {
  expect(heldOf("input-seal, circlip x 2,")).toEqual([
    { id: "input-seal", pieces: 1 },
    { id: "circlip", pieces: 2 },
  ]);
  for (const text of ["input-seal, circlip x 2", "circlip", ""]) expect(heldText(heldOf(text))).toBe(text);
});

test("a part is typed and shown by its name, never by its id", () => {
  expect(partNamed(known, "input-seal")).toBe("Seal of the input");
  expect(partNamed(known, "fork-pad")).toBe("fork pad");
  expect(idNamed(known, " seal of the INPUT ")).toBe("input-seal");
  expect(idNamed(known, "Fork pad, left")).toBe("fork-pad-left");
});

test("pieces are said anew in their place, and none takes a part out", () => {
  const held = heldOf("input-seal, circlip x 2");
  expect(heldText(holding(held, "input-seal", 3))).toBe("input-seal x 3, circlip x 2");
  expect(heldText(holding(held, "fork-pad", 1))).toBe("input-seal, circlip x 2, fork-pad");
  expect(heldText(holding(held, "circlip", 0))).toBe("input-seal");
  expect(holding(held, "", 1)).toEqual(held);
});
