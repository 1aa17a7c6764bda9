import { beforeEach, describe, expect, it } from "vitest";
import { draftsBelow, keepDraft, placeOf, readDraft } from "./drafts";

const kept = new Map<string, string>();
const store = {
  getItem: (k: string) => kept.get(k) ?? null,
  setItem: (k: string, v: string) => void kept.set(k, v),
  removeItem: (k: string) => void kept.delete(k),
  key: (i: number) => [...kept.keys()][i] ?? null,
  get length() {
    return kept.size;
  },
};

describe("a draft", () => {
  beforeEach(() => kept.clear());

  it("stands at its place alone", () => {
    keepDraft(placeOf("ilva", "r1", "bolts", "p1.b7"), "24", "", store);
    expect(readDraft(placeOf("ilva", "r1", "bolts", "p1.b7"), store)).toBe("24");
    for (const other of [
      ["odo", "r1", "bolts", "p1.b7"],
      ["ilva", "r2", "bolts", "p1.b7"],
      ["ilva", "r1", "bolts", "p1.b2"],
      ["ilva/r1", "bolts", "p1.b7"],
    ]) {
      expect(readDraft(placeOf(...other), store)).toBeUndefined();
    }
  });

  it("is gone when it was taken, or says what stands there anyway", () => {
    const place = placeOf("ilva", "r1", "fill", "unit");
    keepDraft(place, "US qt", "L", store);
    expect(readDraft(place, store)).toBe("US qt");
    keepDraft(place, "L", "L", store);
    keepDraft(placeOf("ilva", "r1", "fill", "value"), "", "", store);
    expect(kept.size).toBe(0);
  });

  it("is found below its step when its place was taken by somebody else", () => {
    const step = placeOf("ilva", "r1", "bolts");
    keepDraft(`${step}/${placeOf("p1.b7")}`, "24", "", store);
    keepDraft(placeOf("ilva", "r1", "bolts-2", "p1.b7"), "30", "", store);
    expect(draftsBelow(step, store)).toEqual([{ at: "p1.b7", value: "24" }]);
  });
});
