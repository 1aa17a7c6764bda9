import { expect, test } from "vitest";
import { circleDrafts } from "./circle";

const clocks = [12, 3, 6, 9, 12, 3, 6, 9, 12];
const ids = ["at-12", "at-3", "at-6", "at-9", "back-12", "again-3", "again-6", "again-9", "again-12"];
const places = clocks.map((clock) => ({ clock }));
const asked = (known: number) =>
  ids.map((id, i) => ({ ask: { id, feeds: `readings[${i}].reading` }, answered: i < known }));
const turn = Array.from({ length: 25 }, (_, i) => ({ clock: (i / 2) % 12 || 12, reading: `${i} mm` }));
const said = (known: number) => circleDrafts(asked(known), places, turn).map((d) => `${d.item} ${d.value}`);

test("a turn answers the places up to the way back", () => {
  expect(said(0)).toEqual(["at-12 0 mm", "at-3 6 mm", "at-6 12 mm", "at-9 18 mm", "back-12 24 mm"]);
});

test("what was read stays; the next turn answers the second round", () => {
  expect(said(2)).toEqual(["at-6 12 mm", "at-9 18 mm", "back-12 24 mm"]);
  expect(said(5)).toEqual(["again-3 6 mm", "again-6 12 mm", "again-9 18 mm", "again-12 24 mm"]);
  expect(said(9)).toEqual([]);
});

test("what is read nowhere on the clock takes nothing from a turn", () => {
  expect(circleDrafts([{ ask: { id: "pilot", feeds: "pilot" }, answered: false }], places, turn)).toEqual([]);
});
