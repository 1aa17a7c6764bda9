import { describe, expect, it } from "vitest";
import { linesOf, minutesOf, same, withoutPiece, withPiece, withStep, withWord } from "./own";
import type { OwnRoute, RoutePage } from "../../model/types";

const step = (id: string) => ({ id, kind: "check" as const, title: id, say: "Look.", ways: [] });
const page: RoutePage = {
  id: "r",
  title: "R",
  kind: "clutch",
  own: {},
  version: 0,
  history: [],
  unfit: [],
  stations: [{ id: "assemble", title: "Assemble", steps: [step("build"), step("sealant")] }],
  pieces: [{ id: "sealant", steps: ["Sealant"], words: {} }],
};

describe("what a shop does otherwise on a route", () => {
  it("stands at its step, a piece behind its step", () => {
    const own = withPiece(page, withStep({}, "build", { minutes: 20 }), "sealant", "build");
    expect(own.added).toEqual([{ fragment: "sealant", behind: "build", as: "sealant-2" }]);
    const lines = linesOf(page, own, "assemble");
    expect(lines.map((l) => (l.what === "step" ? l.step.id : l.piece.as))).toEqual([
      "build",
      "sealant-2",
      "sealant",
    ]);
    expect(withPiece(page, own, "sealant", "build").added?.map((a) => a.as)).toEqual([
      "sealant-2",
      "sealant-3",
    ]);
    expect(withoutPiece(own, 0).added).toEqual([]);
  });

  it("says a piece's words otherwise, or as the book has them", () => {
    const own = withPiece(page, {}, "sealant", "build");
    const said = withWord(own, 0, "where", "Cover");
    expect(said.added?.[0]?.with).toEqual({ where: "Cover" });
    expect(withWord(said, 0, "where", "").added?.[0]?.with).toEqual({});
    expect(withWord(said, 1, "where", "Cover")).toEqual(said);
  });

  it("goes when it says nothing any more", () => {
    const own = withStep(withStep({}, "build", { title: "Put together" }), "build", { title: "" });
    expect(own.steps).toEqual({});
    expect(same(own, {})).toBe(true);
    expect(same(withStep(own, "build", { left_out: true }), {})).toBe(false);
  });

  it("is the same in whatever order it was said", () => {
    const one: OwnRoute = withStep(withStep({}, "a", { minutes: 1 }), "b", { minutes: 2 });
    const other: OwnRoute = withStep(withStep({}, "b", { minutes: 2 }), "a", { minutes: 1 });
    expect(same(one, other)).toBe(true);
    expect(minutesOf(one)).toBe(3);
    expect(minutesOf(withStep(one, "b", { left_out: true }))).toBe(1);
  });
});
