import { describe, expect, it, test } from "vitest";
import {
  doneWords,
  explanations,
  locksOf,
  observed,
  seenWords,
  suspects,
  toggled,
  touch,
  touchedAs,
  untouched,
} from "./motion";

const failure = (member: string) => ({ member, mode: "broken", says: `${member}: broken` });
const out = { method: "driveline/2", source: [], sound: false, cleared: [], nominal: [], says: "" };

describe("what was turned and what it showed", () => {
  it("is said as one would across the shop", () => {
    expect(
      doneWords({ turned: "front-left", with: ["front-right"], held: ["rear-out"], locks: ["inter-axle"] }),
    ).toBe("front left and front right turned by hand, rear out held, inter axle in");
    expect(doneWords({ turned: "engine", by: "engine", ground: ["left"] })).toBe(
      "engine driving, wheels on the ground",
    );
    expect(seenWords([{ shaft: "right", way: "opposite" }], "drags")).toBe("right turns back, it drags");
    expect(seenWords([{ shaft: "left" }, { shaft: "right", way: "still" }], undefined)).toBe(
      "right stays still",
    );
  });

  it("shades a member by the explanations that name it; pairs only where no single one does", () => {
    const single = {
      ...out,
      singles: [failure("diff"), failure("left-shaft")],
      doubles: [[failure("a"), failure("b")]],
    };
    expect([...suspects(single)]).toEqual([
      ["diff", 1],
      ["left-shaft", 1],
    ]);
    const pairs = {
      ...out,
      singles: [],
      doubles: [
        [failure("a"), failure("b")],
        [failure("a"), failure("c")],
      ],
    };
    expect(suspects(pairs).get("a")).toBe(2);
    expect(explanations(pairs)[0]).toBe("a: broken, and b: broken");
  });
});

test("an observation is put together by touch", () => {
  let o = touch(untouched, "left", "turned");
  o = touch(o, "propshaft", "held");
  o = touch(o, "right", "opposite");
  expect(touchedAs(o, "left")).toBe("turned");
  expect(touchedAs(o, "right")).toBe("opposite");
  expect(observed(o)).toEqual({
    turned: "left",
    held: ["propshaft"],
    moved: [{ shaft: "right", way: "opposite" }],
    says: "left turned by hand, propshaft held: right turns back",
  });
  o = touch(o, "right", "still");
  expect(observed(o)?.moved).toEqual([{ shaft: "right", way: "still" }]);
  expect(observed(touch(o, "right", "still"))).toBeUndefined();
});

test("two are turned together, and one is taken back", () => {
  let o = touch(touch(untouched, "left", "turned"), "right", "turned");
  o = { ...o, felt: "light" };
  expect(observed(o)).toMatchObject({ turned: "left", with: ["right"] });
  expect(observed(touch(o, "left", "turned"))).toMatchObject({ turned: "right" });
  expect(touch(touch(o, "left", "turned"), "right", "turned").turned).toBe("");
});

test("locks and wheels on the ground are put in and taken out", () => {
  const o = toggled(toggled(untouched, "locks", "centre-lock"), "ground", "front-left");
  expect([o.locks, o.ground]).toEqual([["centre-lock"], ["front-left"]]);
  expect(toggled(o, "locks", "centre-lock").locks).toEqual([]);
  const clutch = { id: "c", kind: "clutch", a: "x", b: "y" };
  expect(
    locksOf([
      { ...clutch, engaged_by: "lever" },
      { ...clutch, engaged_by: "engine_off" },
      { ...clutch, engaged_by: "lever" },
      clutch,
    ]),
  ).toEqual(["lever"]);
});
