// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import { Lines } from "./Lines";

const yes = { id: "dry", text: "Dry", good: true };
const no = { id: "drips", text: "It drips", good: false };
const untried = { id: "untried", text: "Not tried", reason: true };
const hot = { id: "hot", title: "Hot oil", text: "It burns.", grave: true };

const items = [
  { id: "leak", text: "Leaks?", answers: [yes, no, untried] },
  { id: "level", text: "Level", answers: [yes, no] },
];

const check = (more: object = {}) => at("check", { items, ...more }, ["outcome", "acknowledge"]);

const line = (name: string) => within(screen.getByRole("group", { name }));

describe("lines to look at", () => {
  it("are answered by their figures, the open one first", async () => {
    const p = check();
    const { hand } = stage(<Lines {...p} />);
    await hand.keyboard("2");
    expect(said(p)).toEqual([{ act: "outcome", item: "leak", outcome: "drips" }]);
  });

  it("are said anew over what was said", async () => {
    const old = entry("outcome", { item: "leak", body: { outcome: "dry" } });
    const p = check({ entries: [old] });
    const { hand } = stage(<Lines {...p} />);
    expect(line("Leaks?").getByRole("radio", { name: /Dry/ }).getAttribute("aria-checked")).toBe("true");
    await hand.click(line("Leaks?").getByRole("radio", { name: "It drips" }));
    expect(said(p)).toMatchObject([{ item: "leak", outcome: "drips", supersedes: old.id }]);
  });

  it("want a reason where the answer does, before anything is written", async () => {
    const p = check();
    const { hand } = stage(<Lines {...p} />);
    await hand.click(line("Leaks?").getByRole("radio", { name: /Not tried/ }));
    expect(said(p)).toEqual([]);
    await hand.type(screen.getByLabelText("Leaks?: why?"), "no oil in it yet{Enter}");
    expect(said(p)).toEqual([{ act: "outcome", item: "leak", outcome: "untried", note: "no oil in it yet" }]);
  });

  it("have their hazard read first, and the answer goes down with it", async () => {
    const p = check({ items: [{ ...items[0], cautions: [hot] }] });
    const { hand } = stage(<Lines {...p} />);
    await hand.keyboard("1");
    expect(said(p)).toEqual([]);
    expect(screen.getByText("Read this first: your answer goes down with it.")).toBeTruthy();
    await hand.click(screen.getByRole("button", { name: /Read first: Hot oil/ }));
    expect(said(p)).toEqual([
      { act: "acknowledge", item: "hot" },
      { act: "outcome", item: "leak", outcome: "dry" },
    ]);
  });

  it("tell a hazard whole once, and its name at the other lines", () => {
    const mild = { ...hot, grave: false };
    stage(<Lines {...check({ items: items.map((i) => ({ ...i, cautions: [mild] })) })} />);
    expect(screen.getAllByText(/It burns\./)).toHaveLength(1);
    expect(screen.getAllByText(/Hot oil\./)).toHaveLength(2);
  });

  it("show the card before the work beside", () => {
    const before = entry("outcome", { item: "leak", body: { outcome: "drips" } });
    const p = at("test", { items, beside: [before], from_book: "drive" }, ["outcome"]);
    stage(<Lines {...p} />);
    expect(screen.getByText("before the work")).toBeTruthy();
    expect(screen.getAllByText("It drips").length).toBeGreaterThan(2);
    expect(screen.getByText("no answer")).toBeTruthy();
  });
});

describe("a line whose answer is a figure", () => {
  const filled = { id: "temperature", text: "Oil", value: "temperature", units: ["°C", "°F"], answers: [] };

  it("takes it as it was typed, with its unit", async () => {
    const p = check({ items: [filled] });
    const { hand } = stage(<Lines {...p} />);
    await hand.type(screen.getByLabelText("Oil"), "60{Enter}");
    expect(said(p)).toEqual([{ act: "outcome", item: "temperature", value: "60 °C" }]);
  });

  it("takes it in the other unit", async () => {
    const p = check({ items: [filled] });
    const { hand } = stage(<Lines {...p} />);
    await hand.click(screen.getByRole("button", { name: "°C" }));
    await hand.type(screen.getByLabelText("Oil"), "140{Enter}");
    expect(said(p)).toMatchObject([{ value: "140 °F" }]);
  });

  it("is corrected where it stands", async () => {
    const old = entry("outcome", { item: "temperature", body: { value: { value: 60, unit: "°C" } } });
    const p = check({ items: [filled], entries: [old] });
    const { hand } = stage(<Lines {...p} />);
    await hand.click(screen.getByRole("button", { name: "Correct" }));
    await hand.type(screen.getByLabelText("Oil"), "66{Enter}");
    expect(said(p)).toMatchObject([{ value: "66 °C", supersedes: old.id }]);
  });
});

describe("tests of a diagnosis", () => {
  it("stand in the order of what they tell, the rest folded away", async () => {
    const tests = ["cold", "warm", "lever"].map((id) => ({ id, text: `Try it ${id}`, answers: [yes, no] }));
    const diagnosis = {
      causes: [{ id: "seal", says: "Seal", p: 0.6, for: [], against: [] }],
      next: [
        { id: "lever", says: "Try it lever", minutes: 5, bits: 0.4, after: [] },
        { id: "cold", says: "Try it cold", minutes: 10, bits: 0.2, after: [] },
      ],
      action: "seal",
      action_p: 0.6,
      enough_is_known: false,
      share_of_own_experience: 0,
    };
    const p = at("test", { items: tests, from_book: "tests", diagnosis }, ["outcome"]);
    const { hand } = stage(<Lines {...p} />);
    expect(screen.getAllByRole("group").map((g) => g.getAttribute("name"))).toEqual(["lever", "cold"]);
    await hand.click(screen.getByRole("button", { name: "1 more test" }));
    expect(screen.getByRole("group", { name: "Try it warm" })).toBeTruthy();
  });
});
