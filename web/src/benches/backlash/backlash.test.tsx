// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { believed } from "../../model/json";
import { stage } from "../../test/stage";
import type { Face } from "../bench";
import type { Out } from ".";
import backlash from ".";

const mm = (value: number) => ({ value, unit: "mm" });
const units = [
  { symbol: "mm", dimension: "length", system: "metric", factor: 0.001, decimals: 2, paired: "thou" },
];

const face = (out: object, readings: number[]) =>
  believed<Face<"backlash">>({
    title: "Backlash",
    units,
    touched: -1,
    onTouch: vi.fn(),
    questions: null,
    rest: () => null,
    given: () => ({ says: undefined, error: undefined }),
    out: believed<Out>({
      method: "backlash/3",
      source: [],
      findings: [],
      mean: mm(0.31),
      variation: mm(0.02),
      variation_verdict: "none",
      k: { value: 0.86, spread: 0.09, from: "geometry of the pair" },
      chance: 1,
      says: "move the ring",
      ...out,
    }),
    input: {
      readings: readings.map((r) => `${r} mm`),
      ring_side: "left",
      left: "2.50 mm",
      right: "2.50 mm",
      target_min: "0.15 mm",
      target_max: "0.25 mm",
    },
  });

const { Drawing, Meaning } = backlash;

it("draws what each pack becomes when the ring has to go, and not when it stands right", () => {
  if (!Drawing) throw new Error("no drawing");
  const moved = { shift: mm(-0.13), left: mm(2.63), right: mm(2.37) };
  const { again } = stage(<Drawing {...face({ verdict: "out", ...moved }, [0.31, 0.3])} />);
  const picture = () => screen.getByRole("img", { name: /^Axle cut open/ });
  expect(within(picture()).getByText("to 2.63 mm")).toBeTruthy();
  expect(within(picture()).getByText("next")).toBeTruthy();
  again(<Drawing {...face({ verdict: "in", ...moved }, [0.2, 0.2, 0.2, 0.2])} />);
  expect(within(picture()).queryByText("to 2.63 mm")).toBeNull();
  expect(within(picture()).queryByText("next")).toBeNull();
});

it("says the mean, the packs and how sure the move is", () => {
  if (!Meaning) throw new Error("no meaning");
  stage(
    <Meaning
      {...face({ verdict: "out", shift: mm(-0.13), left: mm(2.63), right: mm(2.37) }, [0.31, 0.31])}
    />,
  );
  expect(screen.getByText("0.310")).toBeTruthy();
  expect(screen.getByText(/Right in 99 of 100 cases/)).toBeTruthy();
  expect(screen.getByRole("img", { name: "0.86, between 0.68 and 1.04" })).toBeTruthy();
});
