// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { believed } from "../../model/json";
import { stage } from "../../test/stage";
import type { Face } from "../bench";
import type { Out } from ".";
import practice from ".";

const face = (input: object, out: object, onInput: (i: object) => void) =>
  believed<Face<"practice">>({
    title: "Practice",
    units: [],
    touched: -1,
    onTouch: vi.fn(),
    onInput,
    questions: null,
    rest: () => null,
    given: () => ({ says: undefined, error: undefined }),
    input: { kind: "fault", seed: 3, level: "clean", ...input },
    out: believed<Out>({
      given: { reads: ["pull away, lock in"], parts: [{ name: "clutch", price: 280 }], minutes: { read: 0 } },
      answers: [],
      minutes: 0,
      money: 0,
      done_so_far: { readings: 0, assemblies: 0, orders: 0 },
      says: "",
      ...out,
    }),
  });

const { Drawing, Meaning } = practice;

it("does one act more at a time, and begins anew with another one", async () => {
  if (!Drawing) throw new Error("no drawing");
  const onInput = vi.fn();
  const acts = [{ read: "pull away, lock in" }];
  const answers = [{ says: "it drives", minutes: 10 }];
  const { hand } = stage(<Drawing {...face({ acts }, { answers }, onInput)} />);
  expect(screen.getByText("it drives")).toBeTruthy();
  await hand.click(screen.getByRole("button", { name: "clutch, 280" }));
  expect(onInput.mock.lastCall?.[0]).toMatchObject({ acts: [...acts, { order: "clutch" }] });
  await hand.click(screen.getByRole("button", { name: "Undo the last" }));
  expect(onInput.mock.lastCall?.[0]).toMatchObject({ acts: [] });
  await hand.click(screen.getByRole("button", { name: "Another one" }));
  expect(onInput.mock.lastCall?.[0]).toMatchObject({ acts: [], reveal: false });
});

it("tells the truth only when it is asked for", async () => {
  if (!Meaning) throw new Error("no meaning");
  const onInput = vi.fn();
  const { hand, again } = stage(<Meaning {...face({}, {}, onInput)} />);
  expect(screen.queryByText(/Broken/)).toBeNull();
  await hand.click(screen.getByRole("button", { name: "Tell me the truth" }));
  expect(onInput.mock.lastCall?.[0]).toMatchObject({ reveal: true });
  const better = [{ act: 0, move: { read: "pull away, lock in" }, why: "it would have told it" }];
  again(<Meaning {...face({}, { truth: { within: false, causes: ["clutch"] }, better }, onInput)} />);
  expect(screen.getByText("Broken: clutch.")).toBeTruthy();
  expect(screen.getByText(/It would have told it/)).toBeTruthy();
});
