import { expect, test } from "vitest";
import { curves } from "./practice";

const run = (login: string, kind: "axle" | "fault", minutes: number) => ({
  login,
  name: login,
  kind,
  level: "clean" as const,
  seed: 1,
  at: `2026-12-01T10:0${minutes}:00Z`,
  right: true,
  minutes,
  readings: 1,
  assemblies: 1,
  acts: 2,
  best: 2,
});

test("each person's runs of a kind are a curve from the first to the latest", () => {
  const all = curves([
    run("odo", "axle", 3),
    run("runa", "axle", 2),
    run("odo", "fault", 1),
    run("odo", "axle", 0),
  ]);
  expect(all.map((c) => [c.name, c.kind, ...c.runs.map((r) => r.minutes)])).toEqual([
    ["odo", "axle", 0, 3],
    ["runa", "axle", 2],
    ["odo", "fault", 1],
  ]);
});
