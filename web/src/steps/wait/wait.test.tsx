// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import WaitStep from ".";

const schools = [
  { id: "at-once", title: "At once", wait: { value: 0, unit: "min" }, why: "Metal on metal." },
  { id: "later", title: "An hour later", wait: { value: 60, unit: "min" }, why: "Our way.", default: true },
];

const clock = (wait: object, entries: unknown[] = []) =>
  at("wait", { schools, wait, entries }, ["start", "end"]);

const started = {
  now: "2026-11-26T10:30:00Z",
  started: "2026-11-26T10:00:00Z",
  due: "2026-11-26T11:00:00Z",
  school: "later",
};

describe("a clock", () => {
  it("is started by the key of the step, by the shop's way unless another is picked", async () => {
    const p = clock({});
    const { hand } = stage(<WaitStep {...p} />);
    expect(
      screen.getByRole("radio", { name: /An hour later \(our way\)/ }).getAttribute("aria-checked"),
    ).toBe("true");
    await hand.click(screen.getByRole("radio", { name: /At once/ }));
    await hand.keyboard("f");
    expect(said(p)).toEqual([{ act: "start", outcome: "at-once" }]);
  });

  it("shows what is left by the server's clock, and ends sooner only with a reason", async () => {
    const p = clock(started);
    const { hand } = stage(<WaitStep {...p} />);
    expect(screen.getByRole("img", { name: /time left 30:00|time left 29:5/ })).toBeTruthy();
    await hand.keyboard("f");
    await hand.click(screen.getByRole("button", { name: "Go on early" }));
    expect(said(p)).toEqual([]);
    await hand.type(screen.getByLabelText("Reason to go on early"), "the ferry leaves{Enter}");
    expect(said(p)).toEqual([{ act: "end", reason: "the ferry leaves" }]);
  });

  it("that ran out is ended by the key", async () => {
    const p = clock({ ...started, now: "2026-11-26T11:00:01Z" });
    const { hand } = stage(<WaitStep {...p} />);
    await hand.keyboard("f");
    expect(said(p)).toEqual([{ act: "end" }]);
  });

  it("that is over says who noted it", () => {
    stage(<WaitStep {...clock(started, [entry("end")])} />);
    expect(screen.getByText("Time up, confirmed by Odo Brandt.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /sooner/ })).toBeNull();
  });
});

describe("the ways shops wait", () => {
  it("are each told with their time and their reason, and stand still once the clock runs", async () => {
    const p = clock(started);
    const { hand } = stage(<WaitStep {...p} />);
    expect(screen.getByText("Metal on metal.")).toBeTruthy();
    await hand.click(screen.getByRole("radio", { name: /At once: 0 min/ }));
    expect(screen.getByRole("radio", { name: /An hour later/ }).getAttribute("aria-checked")).toBe("true");
  });

  it("are asked for again when the page is opened anew", () => {
    const { again } = stage(<WaitStep {...clock({})} />);
    again(<WaitStep {...clock(started)} />);
    expect(screen.queryByRole("button", { name: /start the clock/ })).toBeNull();
    expect(screen.getByLabelText("Reason to go on early")).toBeTruthy();
  });
});
