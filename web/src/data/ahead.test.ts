import { describe, expect, it } from "vitest";
import type { Kind, Person, StepOf } from "../model/types";
import { ahead } from "./ahead";
import { believed } from "../model/json";
import type { Waiting } from "./outbox";

const me: Person = { login: "ilva", name: "Ilva", role: "mechanic" };
const waits = (draft: Waiting["draft"], by = "ilva", step = "bolts"): Waiting => ({
  key: JSON.stringify(draft),
  by,
  rebuild: "r",
  step,
  title: "Bolts",
  draft,
});
const reading = (id: string) => ({ id, act: "reading", body: {}, seq: 1, hash: "h" });
const cells = [1, 2, 3].map((bolt) => ({ pass: 1, bolt }));
const frame = {
  step: { id: "bolts" },
  cautions: [],
  entries: [{ id: "e1", act: "torqued", item: "p1.b1", body: {}, seq: 1 }],
};
const step = <K extends Kind>(kind: K, more: object) => believed<StepOf<K>>({ ...frame, kind, ...more });
const bolts = step("torque", { torque: { cells, next: cells[1] } });
const stack = step("stack", { stack: [{ id: "gear" }, { id: "ring" }] });
/** What a step of its kind becomes. */
const seen = <K extends Kind>(view: StepOf<K>, waiting: Waiting[]) =>
  believed<StepOf<K>>(ahead(view, waiting, me));

describe("before the server has answered", () => {
  it("the next bolt follows what waits", () => {
    const now = seen(bolts, [waits({ act: "torqued", pass: 1, bolt: 2, value: "24 N·m" })]);
    expect(now.torque.next).toEqual({ pass: 1, bolt: 3 });
    expect(now.entries.at(-1)).toMatchObject({
      item: "p1.b2",
      body: { typed: "24 N·m", value: { value: 24, unit: "N·m" } },
    });
    const all = seen(
      bolts,
      [2, 3].map((bolt) => waits({ act: "torqued", pass: 1, bolt, value: "24 N·m" })),
    );
    expect(all.torque.next).toBeUndefined();
  });

  it("a part that waits is off, and a struck bolt is open again", () => {
    const off = seen(stack, [waits({ act: "removed", item: "gear", outcome: "removed", tray: "A1" })]);
    expect(off.stack).toEqual([
      {
        id: "gear",
        says: "waits for the server",
        removed: "removed",
        not_found: false,
        none: false,
        tray: "A1",
      },
      { id: "ring" },
    ]);
    expect(seen(bolts, [waits({ act: "strike", supersedes: "e1" })]).torque.next).toEqual({
      pass: 1,
      bolt: 1,
    });
  });

  it("a reading that waits stands in the last trial, a corrected one once", () => {
    const measured = step("measure", {
      entries: [reading("r1"), reading("r2")],
      trials: [
        { number: 1, readings: [], asked: [] },
        { number: 2, readings: [reading("r1"), reading("r2")], asked: [] },
      ],
    });
    const now = seen(measured, [
      waits({ act: "reading", value: "24 thou" }),
      waits({ act: "reading", value: "1/64 in", supersedes: "r2" }),
    ]);
    expect(now.trials[0]?.readings).toEqual([]);
    expect(now.trials[1]?.readings.map((e) => e.body.typed ?? e.id)).toEqual(["r1", "24 thou", "1/64 in"]);
  });

  it("what waits is corrected while it waits", () => {
    const slip = waits({ act: "torqued", pass: 1, bolt: 2, value: "42 N·m" });
    const right = waits({ act: "torqued", pass: 1, bolt: 2, value: "24 N·m", supersedes: slip.key });
    const live = seen(bolts, [slip, right]).entries.filter((e) => e.item === "p1.b2" && !e.superseded_by);
    expect(live.map((e) => e.id)).toEqual([right.key]);
    const struck = seen(bolts, [slip, waits({ act: "strike", supersedes: slip.key })]);
    expect(struck.torque.next).toEqual({ pass: 1, bolt: 2 });
  });

  it("a point is answered, and its field gone", () => {
    const signing = step("decide", { points: [{ item: "torques.wheels" }, { item: "torques.axle" }] });
    const said = waits({ act: "outcome", item: "torques.axle", outcome: "answered", note: "done again" });
    expect(seen(signing, [said]).points).toEqual([
      { item: "torques.wheels" },
      { item: "torques.axle", answer: "done again" },
    ]);
  });

  it("nothing of another person or step is shown", () => {
    expect(
      ahead(
        bolts,
        [waits({ act: "note", note: "x" }, "odo"), waits({ act: "note", note: "x" }, "ilva", "other")],
        me,
      ),
    ).toBe(bolts);
  });
});
