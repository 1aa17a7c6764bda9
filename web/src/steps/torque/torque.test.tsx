// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import TorqueStep from ".";

const cells = [1, 2].flatMap((pass) =>
  [1, 2].map((bolt) => ({ pass, bolt, setting: { value: pass * 20, unit: "N·m" } })),
);

const torque = {
  group: { name: "Cover bolts", bolts: 2, torque: { value: 40, unit: "N·m" }, tolerance: 0.06 },
  plan: {
    order: [1, 2],
    bolts: [
      { number: 1, x: 0, y: 1 },
      { number: 2, x: 0, y: -1 },
    ],
    passes: [
      { name: "half", share: 0.5, setting: { value: 20, unit: "N·m" } },
      { name: "full", share: 1, setting: { value: 40, unit: "N·m" } },
      { name: "check", share: 1, check: true, setting: { value: 40, unit: "N·m" } },
    ],
  },
  cells,
  next: cells[0],
};

const bolts = (more: object = {}, entries: unknown[] = []) =>
  at("torque", { units: ["N·m", "lb-ft"], torque: { ...torque, ...more }, entries }, ["torqued", "outcome"]);

const reading = () => screen.getByLabelText("Wrench reading");

describe("a group of bolts", () => {
  it("says which bolt is next and what to set, in both systems", () => {
    stage(<TorqueStep {...bolts()} />);
    expect(screen.getByRole("heading", { name: /Next: bolt 1, pass 1/ }).textContent).toContain(
      "20 N·m (15 lb-ft)",
    );
    expect(screen.getByRole("group", { name: "Bolt circle; next is bolt 1" })).toBeTruthy();
  });

  it("takes a reading with its unit by Enter, for its bolt", async () => {
    const p = bolts();
    const { hand } = stage(<TorqueStep {...p} />);
    await hand.type(reading(), "21{Enter}");
    expect(said(p)).toEqual([{ act: "torqued", pass: 1, bolt: 1, value: "21 N·m" }]);
    expect(reading()).toHaveProperty("value", "");
  });

  it("asks once before a value an order away, and takes it when it is meant", async () => {
    const p = bolts();
    const { hand } = stage(<TorqueStep {...p} />);
    await hand.type(reading(), "210{Enter}");
    expect(said(p)).toEqual([]);
    expect(screen.getByRole("alert").textContent).toContain("times larger than 20 N·m");
    await hand.keyboard("{Enter}");
    expect(said(p)).toMatchObject([{ value: "210 N·m" }]);
  });

  it("keeps what was typed for a bolt that somebody else took", async () => {
    const { hand, again } = stage(<TorqueStep {...bolts()} />);
    await hand.type(reading(), "19");
    const taken = entry("torqued", { item: "p1.b1", verdict: "in", body: { pass: 1, bolt: 1 } });
    again(<TorqueStep {...bolts({ next: cells[1] }, [taken])} />);
    expect(reading(), "the next bolt begins empty").toHaveProperty("value", "");
    expect(screen.getByText(/Not recorded: 19 for bolt 1, pass 1/)).toBeTruthy();
  });

  it("corrects a reading in its place, not beside it", async () => {
    const old = entry("torqued", {
      item: "p1.b1",
      verdict: "out",
      body: { pass: 1, bolt: 1, value: { value: 12, unit: "N·m" } },
    });
    const p = bolts({ next: cells[1] }, [old]);
    const { hand } = stage(<TorqueStep {...p} />);
    await hand.click(screen.getByRole("button", { name: /bolt 1, pass 1: 12/ }));
    await hand.type(reading(), "20{Enter}");
    expect(said(p)).toEqual([{ act: "torqued", pass: 1, bolt: 1, value: "20 N·m", supersedes: old.id }]);
  });

  it("turns the unit of the wrench by a key", async () => {
    const { hand } = stage(<TorqueStep {...bolts()} />);
    await hand.click(screen.getByRole("heading", { name: /Next: bolt/ }));
    await hand.keyboard("u");
    expect(screen.getByRole("heading", { name: /Next: bolt 1/ }).textContent).toContain("15 lb-ft (20 N·m)");
  });

  it("turns a bolt on by an angle where the sheet says so", async () => {
    const p = bolts({ next: { ...cells[0], angle_deg: 90 } });
    const { hand } = stage(<TorqueStep {...p} />);
    await hand.type(screen.getByLabelText("It was turned on by"), "90{Enter}");
    expect(said(p)).toMatchObject([{ value: "90 °" }]);
  });

  it("wants the check round last, and says it by the key of the step", async () => {
    const p = bolts({ next: undefined });
    const { hand } = stage(<TorqueStep {...p} />);
    expect(screen.getByRole("heading", { name: /Check round/ })).toBeTruthy();
    await hand.keyboard("f");
    expect(said(p)).toEqual([{ act: "outcome", item: "check-round", outcome: "held" }]);
  });
});

describe("a group whose torque nobody knows", () => {
  it("is looked over, and the record says so", async () => {
    const figure = {
      path: "torques.cover",
      title: "Cover bolts",
      called: "torque of the cover bolts",
      shape: "torque",
    };
    const saidSo = (origin: "not-known" | "by-size") =>
      at(
        "torque",
        { units: ["N·m"], torque: { cells: [] }, figures: [{ ...figure, entry: "e1", origin }] as never },
        ["outcome"],
      );
    const onItsWay = stage(<TorqueStep {...saidSo("by-size")} />);
    expect(
      screen.queryByRole("button", { name: /All bolts held/ }),
      "nothing is closed meanwhile",
    ).toBeNull();
    onItsWay.unmount();
    const p = saidSo("not-known");
    const { hand } = stage(<TorqueStep {...p} />);
    expect(screen.queryByLabelText("Wrench reading")).toBeNull();
    await hand.click(screen.getByRole("button", { name: /All bolts held/ }));
    expect(said(p)).toEqual([{ act: "outcome", item: "check-round", outcome: "held" }]);
  });
});
