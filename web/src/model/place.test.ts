import { describe, expect, it } from "vitest";
import { placeText, readPlace } from "./place";
import cases from "./places.json";

/** The cases are those of workshop/kind_test.go. */
describe("places", () => {
  it.each(cases)("reads and writes $text", ({ text, is }) => {
    expect(readPlace(text)).toEqual(is);
    expect(placeText(readPlace(text))).toBe(text);
  });
});
