import { expect, test } from "vitest";
import { dayTyped } from "./moment";

const thursday = new Date("2026-12-03T10:00Z");

test("a day is typed as all days are written, or as people say it", () => {
  for (const [typed, is] of [
    ["2026-12-24", "2026-12-24"],
    [" 2026-12-24 ", "2026-12-24"],
    ["+5", "2026-12-08"],
    ["fri", "2026-12-04"],
    ["Friday", "2026-12-04"],
    ["thu", "2026-12-10"],
    ["2026-02-30", ""],
    ["24.12.2026", ""],
    ["f", ""],
    ["", ""],
  ] as const)
    expect(dayTyped(typed, thursday), typed).toBe(is);
});
