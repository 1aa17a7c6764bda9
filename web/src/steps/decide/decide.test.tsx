// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import DecideStep from ".";

const choices = [
  { id: "seal", text: "The seal alone" },
  { id: "unit", text: "The whole unit", reason: true },
  { id: "wait", text: "Back to the bench", holds: true },
];

const decision = (more: object = {}, acts = ["decision"]) =>
  at("decide", { choices, points: [], ...more }, acts);

describe("a decision", () => {
  it("wants a choice first", async () => {
    const p = decision();
    const { hand } = stage(<DecideStep {...p} />);
    await hand.click(screen.getByRole("button", { name: /Decide/ }));
    expect(said(p)).toEqual([]);
    expect(screen.getByText("Choose one first.")).toBeTruthy();
  });

  it("is said by the key of the step, with its reason where one was typed", async () => {
    const p = decision();
    const { hand } = stage(<DecideStep {...p} />);
    await hand.click(screen.getByRole("radio", { name: /The seal alone/ }));
    await hand.type(screen.getByLabelText("Reason"), " it drips ");
    await hand.keyboard("{Enter}");
    expect(said(p)).toEqual([{ act: "decision", outcome: "seal", reason: "it drips" }]);
  });

  it("wants a reason where the choice does, and goes to where it is typed", async () => {
    const p = decision();
    const { hand } = stage(<DecideStep {...p} />);
    await hand.click(screen.getByRole("radio", { name: /The whole unit/ }));
    await hand.keyboard("f");
    expect(said(p)).toEqual([]);
    expect(screen.getByText("This choice needs a reason.")).toBeTruthy();
    expect(document.activeElement).toBe(screen.getByLabelText("Reason"));
  });

  it("that stands is not said twice, and is said anew over itself", async () => {
    const old = entry("decision", { body: { outcome: "seal", reason: "it drips" } });
    const p = decision({ entries: [old] });
    const { hand } = stage(<DecideStep {...p} />);
    expect(screen.getByText(/Decided by Odo Brandt/).textContent).toContain("The seal alone, it drips");
    await hand.keyboard("f");
    expect(said(p)).toEqual([]);
    await hand.click(screen.getByRole("radio", { name: /Back to the bench/ }));
    await hand.keyboard("f");
    expect(said(p)).toEqual([{ act: "decision", outcome: "wait", supersedes: old.id }]);
  });

  it("is a signature where it is the lead's", () => {
    stage(<DecideStep {...decision({ step: { id: "sign-off", title: "Lead's sign-off", role: "lead" } })} />);
    expect(screen.getByRole("button", { name: /Sign/ })).toBeTruthy();
  });
});

describe("the chain of a root cause", () => {
  const parts = [
    { part: "washer", name: "Thrust washer", shape: "washer", found: true },
    { part: "sleeve", name: "Dog sleeve", shape: "sleeve", found: true },
  ];

  it("is put together by touching parts, in their order, and said with the decision", async () => {
    const p = decision({ parts });
    const { hand } = stage(<DecideStep {...p} />);
    const chain = within(screen.getByRole("region", { name: "Chain of failure" }));
    await hand.click(chain.getByRole("button", { name: "Dog sleeve", pressed: false }));
    await hand.click(chain.getByRole("button", { name: "Thrust washer", pressed: false }));
    await hand.click(chain.getByRole("button", { name: /Move earlier/ }));
    await hand.type(chain.getByLabelText("Thrust washer: how it went"), "left out");
    await hand.type(chain.getByLabelText("Something not in the parts list"), "the oil{Enter}");
    await hand.click(screen.getByRole("radio", { name: /The seal alone/ }));
    await hand.click(screen.getByRole("button", { name: /Decide/ }));
    expect(said(p)).toMatchObject([
      {
        act: "decision",
        outcome: "seal",
        chain: [{ part: "washer", how: "left out" }, { part: "sleeve" }, { name: "the oil" }],
      },
    ]);
  });
});

describe("the customer's yes", () => {
  const estimates = [
    {
      way: "seal",
      parts: 40,
      fluids: 12,
      outside: 0,
      hours: 3,
      rate: 60,
      work: 180,
      half: 240,
      nine: 300,
      ask: 300,
    },
  ];

  it("stands beside what the way comes to, the sum to ask for in its field", async () => {
    const p = decision({ estimates }, ["decision", "agreed"]);
    const { hand } = stage(<DecideStep {...p} />);
    await hand.click(screen.getByRole("radio", { name: /The seal alone/ }));
    const agreed = within(screen.getByRole("region", { name: "Customer's approval" }));
    expect(agreed.getByText(/Parts/).textContent).toBe(
      "Parts 40, fluids 12, work 3 h at 60: 180. Allowing for what may go wrong: " +
        "half of such jobs cost less than 240, nine in ten less than 300.",
    );
    await hand.type(agreed.getByLabelText("Approved by"), "Nora Quill");
    await hand.click(agreed.getByRole("button", { name: "Record approval" }));
    expect(said(p)).toMatchObject([{ act: "agreed", name: "Nora Quill" }]);
  });

  it("is asked again once the plan has changed", () => {
    const agreed = {
      name: "Nora Quill",
      sum: "300",
      at: "2026-11-26T10:00:00Z",
      by: "Odo Brandt",
      entry: "e1",
      stale: true,
    };
    stage(<DecideStep {...decision({ agreed }, ["decision", "agreed"])} />);
    expect(screen.getByText(/The plan has changed since. Ask again/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Record new approval" })).toBeTruthy();
  });
});
