import { describe, expect, it } from "vitest";
import type { StepView } from "../api/types";
import { ahead } from "./ahead";
import type { Waiting } from "./outbox";

const me = { login: "ilva", name: "Ilva", role: "mechanic" } as never;
const waits = (draft: Waiting["draft"], by = "ilva", step = "bolts"): Waiting => ({ key: JSON.stringify(draft), by, rebuild: "r", step, title: "Bolts", draft });
const reading = (id: string) => ({ id, act: "reading", body: {}, seq: 1, hash: "h" });
const cells = [1, 2, 3].map((bolt) => ({ pass: 1, bolt }));
const view = {
  step: { id: "bolts" },
  entries: [{ id: "e1", act: "torqued", item: "p1.b1", body: {}, seq: 1 }],
  torque: { cells, next: cells[1] },
  stack: [{ id: "gear" }, { id: "ring" }],
} as unknown as StepView;

describe("while the server is away", () => {
  it("the next bolt follows what waits", () => {
    const seen = ahead(view, [waits({ act: "torqued", pass: 1, bolt: 2, value: "24 N·m" })], me);
    expect(seen.torque?.next).toEqual({ pass: 1, bolt: 3 });
    expect(seen.entries.at(-1)).toMatchObject({ item: "p1.b2", body: { typed: "24 N·m", value: { value: 24, unit: "N·m" } } });
    const all = ahead(view, [2, 3].map((bolt) => waits({ act: "torqued", pass: 1, bolt, value: "24 N·m" })), me);
    expect(all.torque?.next).toBeUndefined();
  });

  it("a part that waits is off, and a struck bolt is open again", () => {
    const seen = ahead(view, [waits({ act: "removed", item: "gear", outcome: "removed", tray: "A1" }), waits({ act: "strike", supersedes: "e1" })], me);
    expect(seen.stack).toEqual([{ id: "gear", removed: "removed", not_found: false, tray: "A1" }, { id: "ring" }]);
    expect(seen.torque?.next).toEqual({ pass: 1, bolt: 1 });
  });

  it("a reading that waits stands in the last trial, a corrected one once", () => {
    const measured = { ...view, entries: [reading("r1"), reading("r2")], measure: { trials: [{ number: 1, readings: [] }, { number: 2, readings: [reading("r1"), reading("r2")] }] } } as unknown as StepView;
    const seen = ahead(measured, [waits({ act: "reading", value: "24 thou" }), waits({ act: "reading", value: "1/64 in", supersedes: "r2" })], me);
    expect(seen.measure?.trials[0]?.readings).toEqual([]);
    expect(seen.measure?.trials[1]?.readings.map((e) => (e.body as { typed?: string }).typed ?? e.id)).toEqual(["r1", "24 thou", "1/64 in"]);
  });

  it("what waits is corrected while it waits", () => {
    const slip = waits({ act: "torqued", pass: 1, bolt: 2, value: "42 N·m" });
    const right = waits({ act: "torqued", pass: 1, bolt: 2, value: "24 N·m", supersedes: slip.key });
    const live = ahead(view, [slip, right], me).entries.filter((e) => e.item === "p1.b2" && !e.superseded_by);
    expect(live.map((e) => e.id)).toEqual([right.key]);
    const struck = ahead(view, [slip, waits({ act: "strike", supersedes: slip.key })], me);
    expect(struck.torque?.next).toEqual({ pass: 1, bolt: 2 });
  });

  it("nothing of another person or step is shown", () => {
    expect(ahead(view, [waits({ act: "note", note: "x" }, "odo"), waits({ act: "note", note: "x" }, "ilva", "other")], me)).toBe(view);
  });
});
