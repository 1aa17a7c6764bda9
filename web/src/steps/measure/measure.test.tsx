// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { believed } from "../../model/json";
import type { AskView, Draft, Entry, EntryView, Trial } from "../../model/types";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import { AskLine } from "./AskLine";
import { Readings } from "./Readings";
import { ReadingStrip, valuesBut } from "./ReadingStrip";

const reading = (id: string, typed: string, more: object = {}) =>
  believed<Trial["readings"][number] & EntryView>(
    entry("reading", { id, body: { typed, value: { value: 0.1, unit: "mm" } }, ...more }),
  );

const trial = (n: number, readings: ReturnType<typeof reading>[], more: object = {}) =>
  believed<Trial>({ number: n, readings, asked: [], pack: [], ...more });

type StripProps = Parameters<typeof ReadingStrip>[0];

function Strip(p: Partial<StripProps> & Pick<StripProps, "trials">) {
  const [typed, setTyped] = useState("");
  const [correcting, setCorrecting] = useState("");
  return (
    <ReadingStrip
      entries={p.trials.flatMap((t) => t.readings.map((r) => believed<EntryView>(r)))}
      typed={typed}
      onTyped={setTyped}
      unit="mm"
      onTake={vi.fn()}
      correcting={correcting}
      onCorrect={setCorrecting}
      onStrike={vi.fn()}
      error={null}
      {...p}
    />
  );
}

describe("the strip of readings", () => {
  it("has a row a trial, with the pack that was in", () => {
    stage(
      <Strip
        trials={[
          trial(1, [reading("a", "0.52 mm")]),
          trial(2, [reading("b", "0.10 mm")], { sum: { value: 0.52, unit: "mm" } }),
        ]}
      />,
    );
    expect(screen.getByText("as found")).toBeTruthy();
    expect(screen.getByText("trial 2")).toBeTruthy();
    expect(screen.getByText("pack 0.52 mm")).toBeTruthy();
    expect(screen.getAllByLabelText("Next reading")).toHaveLength(1);
  });

  it("shows the unit until one is typed", async () => {
    const { hand } = stage(<Strip trials={[trial(1, [])]} />);
    expect(screen.getByText("mm")).toBeTruthy();
    await hand.type(screen.getByLabelText("Next reading"), "4 thou");
    expect(screen.queryByText("mm")).toBeNull();
  });

  it("takes by Enter and by its button", async () => {
    const take = vi.fn();
    const { hand } = stage(<Strip trials={[trial(1, [])]} onTake={take} />);
    await hand.type(screen.getByLabelText("Next reading"), "0.1{Enter}");
    await hand.click(screen.getByRole("button", { name: "Record reading" }));
    expect(take).toHaveBeenCalledTimes(2);
  });

  it("leads back to the last by the arrow, and away again by Escape", async () => {
    const { hand } = stage(<Strip trials={[trial(1, [reading("a", "0.52 mm"), reading("b", "0.10 mm")])]} />);
    await hand.click(screen.getByLabelText("Next reading"));
    await hand.keyboard("{ArrowLeft}");
    const right = screen.getByLabelText("Corrected reading");
    expect(screen.getByText("0.52 mm")).toBeTruthy();
    expect(screen.queryByText("0.10 mm")).toBeNull();
    right.focus();
    await hand.keyboard("{Escape}");
    expect(screen.getByText("0.10 mm")).toBeTruthy();
  });

  it("keeps what stood before, struck through", () => {
    const now = reading("b", "0.12 mm");
    stage(
      <Strip trials={[trial(1, [now])]} entries={[reading("a", "1.2 mm", { superseded_by: "b" }), now]} />,
    );
    const struck = screen.getByText("1.2 mm");
    expect(struck.tagName).toBe("S");
  });

  it("strikes one that is corrected away", async () => {
    const strike = vi.fn();
    const { hand } = stage(<Strip trials={[trial(1, [reading("a", "0.52 mm")])]} onStrike={strike} />);
    await hand.click(screen.getByRole("button", { name: /0.52 mm/ }));
    await hand.click(screen.getByRole("button", { name: "Strike out" }));
    expect(strike).toHaveBeenCalledExactlyOnceWith("a");
  });

  it("asks for no more once it was left as it is", () => {
    stage(<Strip trials={[trial(1, [reading("a", "0.52 mm")], { accepted: "the customer waits" })]} />);
    expect(screen.queryByLabelText("Next reading")).toBeNull();
    expect(screen.getByText("accepted as it is: the customer waits")).toBeTruthy();
  });
});

it("a reading is held against the others, not against itself", () => {
  const t = trial(1, [reading("a", "0.1"), reading("b", "0.1")]);
  expect(valuesBut(t, "")).toHaveLength(2);
  expect(valuesBut(t, "a")).toHaveLength(1);
  expect(valuesBut(undefined, "")).toEqual([]);
});

describe("readings", () => {
  const step = (trials: Trial[], more: object = {}) => ({
    ...at(
      "measure",
      {
        instruments: [{ id: "dial", name: "Dial", kind: "dial" }],
        trials,
        units: ["mm", "thou"],
        asks: [],
        min_readings: 2,
        ...more,
      },
      ["reading"],
    ),
    onTyping: vi.fn(),
    error: null,
  });

  it("are said with the gauge at hand, and told as they are typed", async () => {
    const p = step([trial(1, [])]);
    const { hand } = stage(<Readings {...p} />);
    await hand.type(screen.getByLabelText("Next reading"), "0,1");
    expect(p.onTyping).toHaveBeenLastCalledWith({ act: "reading", value: "0,1 mm", instrument: "dial" });
    await hand.keyboard("{Enter}");
    expect(said(p)).toEqual([{ act: "reading", value: "0,1 mm", instrument: "dial" }]);
    expect(p.onTyping).toHaveBeenLastCalledWith(undefined);
  });

  it("are asked about when one lies an order away from the others", async () => {
    const p = step([trial(1, [reading("a", "0.1 mm")])]);
    const { hand } = stage(<Readings {...p} />);
    await hand.type(screen.getByLabelText("Next reading"), "10{Enter}");
    expect(said(p)).toEqual([]);
    expect(screen.getByRole("alert").textContent).toContain("100 times larger");
  });

  it("turn their unit by a key, unless a figure is asked for", async () => {
    const p = step([trial(1, [])]);
    const { hand } = stage(<Readings {...p} />);
    await hand.click(screen.getByTitle("change unit"));
    await hand.type(screen.getByLabelText("Next reading"), "4{Enter}");
    expect(said(p)).toMatchObject([{ value: "4 thou" }]);
  });
});

describe("a figure that is asked for", () => {
  const ask = (more: object = {}) =>
    believed<AskView>({ id: "wheels", text: "Wheel, inside", units: ["mm", "thou"], ...more });
  const line = (a: AskView, more: { entry?: Entry | undefined } = {}) => {
    const take = vi.fn((_: Draft, then?: () => void) => then?.());
    const ui = (
      <ul>
        <AskLine
          ask={a}
          step="s"
          entry={more.entry}
          isCurrent
          onTyping={() => undefined}
          onTake={take}
          error={null}
        />
      </ul>
    );
    return { take, ui };
  };

  it("is taken in its unit", async () => {
    const { take, ui } = line(ask());
    const { hand } = stage(ui);
    await hand.type(screen.getByLabelText("Wheel, inside"), "65,5{Enter}");
    expect(take.mock.calls[0]?.[0]).toEqual({ act: "reading", item: "wheels", value: "65,5 mm" });
    expect(screen.getByLabelText("Wheel, inside")).toHaveProperty("value", "");
  });

  it("stands with what the sheet says, but for a nought", () => {
    const { again } = stage(line(ask({ sheet: { value: 66, unit: "mm" } })).ui);
    expect(screen.getByText("sheet: 66.00 mm")).toBeTruthy();
    again(line(ask({ sheet: { value: 0, unit: "mm" } })).ui);
    expect(screen.queryByText(/sheet:/)).toBeNull();
  });

  it("that was said is corrected in its place", async () => {
    const old = believed<Entry>(reading("a", "65 mm", { item: "wheels" }));
    const { take, ui } = line(ask(), { entry: old });
    const { hand } = stage(ui);
    await hand.click(screen.getByRole("button", { name: "Wheel, inside: 65 mm, correct it" }));
    await hand.type(screen.getByLabelText("Wheel, inside"), "66{Enter}");
    expect(take.mock.calls[0]?.[0]).toMatchObject({ value: "66 mm", supersedes: "a" });
  });

  it("of a few words is answered by its figure", async () => {
    const choices = [
      { id: "free", text: "It turns" },
      { id: "binds", text: "It binds" },
    ];
    const { take, ui } = line(ask({ choices }));
    const { hand } = stage(ui);
    expect(within(screen.getByRole("radiogroup")).getAllByRole("radio")).toHaveLength(2);
    await hand.keyboard("2");
    expect(take.mock.calls[0]?.[0]).toEqual({ act: "reading", item: "wheels", outcome: "binds" });
  });
});
