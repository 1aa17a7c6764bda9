import { describe, expect, it } from "vitest";
import { doneWords, explanations, seenWords, suspects } from "./motion";

const failure = (member: string) => ({ member, mode: "broken", says: `${member}: broken` });
const out = { method: "driveline/2", source: [], sound: false, cleared: [], nominal: [], says: "" };

describe("what was turned and what it showed", () => {
  it("is said as one would across the shop", () => {
    expect(
      doneWords({ turned: "front-left", with: ["front-right"], held: ["rear-out"], locks: ["inter-axle"] }),
    ).toBe("front left and front right turned by hand, rear out held, inter axle in");
    expect(doneWords({ turned: "engine", by: "engine", ground: ["left"] })).toBe(
      "the engine drives, wheels on the ground",
    );
    expect(seenWords([{ shaft: "right", way: "opposite" }], "drags")).toBe("right turns back, it drags");
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
