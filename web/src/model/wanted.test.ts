import { expect, test } from "vitest";
import { grouped, wanted } from "./wanted";

const all = [
  {
    name: "end-float",
    purpose: "push-pull readings of a shaft: the pack it needs",
    group: "Measure and set",
  },
  {
    name: "free-play",
    purpose: "how many flats of the adjuster bring pedal or cable to its free play",
    group: "Clutch",
    asks: ["turns of the nut"],
  },
  { name: "bolt", purpose: "what a bolt stands, and the torque that clamps", group: "Assemble" },
  { name: "tap-drill", purpose: "the drill before a tap", group: "Assemble", asks: ["which drill for M14"] },
  {
    name: "wrench-adapter",
    purpose: "the wrench's setting with an extension across it",
    group: "Assemble",
    asks: ["80 lb-ft on a crow's foot"],
  },
];
const first = (typed: string) => wanted(all, typed)[0]?.name;

test("what one wants is found by its words", () => {
  expect(first("which drill for M14")).toBe("tap-drill");
  expect(first("turns of the nut")).toBe("free-play");
  expect(first("80 lb-ft on a 10 inch crow's foot")).toBe("wrench-adapter");
  expect(first("float of a shaft")).toBe("end-float");
  expect(wanted(all, "zeppelin")).toEqual([]);
});

test("all of them stand in the order of the work", () => {
  expect(wanted(all, " ")).toEqual(all);
  expect(grouped(all).map((g) => [g.title, g.of.length])).toEqual([
    ["Measure and set", 1],
    ["Clutch", 1],
    ["Assemble", 3],
  ]);
});
