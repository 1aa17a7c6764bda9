import { describe, expect, it } from "vitest";
import { asFields, asTyped, blank, fieldsOf, kindOf, said, type Schema } from "./schema";

const quantity: Schema = { type: ["object", "string"], properties: { value: {}, unit: {} } };
const schema: Schema = {
  type: "object",
  required: ["readings"],
  "x-order": ["readings", "side", "share", "wet"],
  properties: {
    wet: { type: "boolean" },
    readings: { type: ["array", "null"], items: quantity },
    side: { type: "string", enum: ["left", "right"] },
    share: { type: ["number", "string"] },
  },
};

describe("a form by a schema", () => {
  it("asks for each field as it is typed, in the order of the form", () => {
    expect(fieldsOf(schema).map(([k, s]) => [k, kindOf(s)])).toEqual([
      ["readings", "list"],
      ["side", "choice"],
      ["share", "number"],
      ["wet", "yes-no"],
    ]);
    expect(kindOf(quantity)).toBe("text");
    expect(kindOf({ type: "integer" })).toBe("number");
    expect(kindOf(schema)).toBe("fields");
  });

  it("holds what was said as text", () => {
    expect(asTyped({ a: 1.5, b: { value: 7, unit: "thou" }, c: [null, true] })).toEqual({
      a: "1.5",
      b: "7 thou",
      c: ["", true],
    });
    expect(asFields("no object")).toEqual({});
  });

  it("sends what is not empty, and begins a line with what it must have", () => {
    expect(said({ a: "1,250", b: " ", c: [], d: { e: "" }, f: ["", "2"] })).toEqual({
      a: "1,250",
      c: [],
      f: ["2"],
    });
    expect(blank(schema)).toEqual({ readings: [] });
    expect(blank(quantity)).toBe("");
  });
});
