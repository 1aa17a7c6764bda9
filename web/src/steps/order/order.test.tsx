// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { believed } from "../../model/json";
import type { PartLine, PartsGroup } from "../../model/parts";
import { stage } from "../../test/stage";
import { at, said } from "../../test/step";
import { AddLine } from "./AddLine";
import { LineBench } from "./LineBench";
import { Table } from "./Table";
import { Ways } from "./Ways";

const line = (more: object = {}) =>
  believed<PartLine>({
    line: "seal",
    name: "Output seal",
    kind: "part",
    why: "renewed by rule",
    pieces: 1,
    packs: "",
    supplier: "Bolt shop",
    state: "to-order",
    state_says: "to order",
    asked: true,
    compare: [],
    compared: [],
    ...more,
  });

const ordering = (l: PartLine, more: object = {}) => ({
  ...at("order", { groups: [], ways: [], suppliers: [], compare: ["bore", "length"], ...more }, [
    "ordered",
    "came",
  ]),
  line: l,
  onDone: vi.fn(),
});

describe("a line of the parts list", () => {
  it("is ordered with what it costs, as it was typed", async () => {
    const p = ordering(line());
    const { hand } = stage(<LineBench {...p} />);
    expect(screen.getByLabelText("Ordered from")).toHaveProperty("value", "Bolt shop");
    await hand.type(screen.getByLabelText("Price"), "1,250");
    await hand.type(screen.getByLabelText("Due on"), "2026-12-03{Enter}");
    expect(said(p)).toEqual([
      { act: "ordered", supplier: "Bolt shop", due: "2026-12-03", lines: [{ line: "seal", price: "1,250" }] },
    ]);
    expect(p.onDone).toHaveBeenCalledOnce();
  });

  it("that goes out is measured first, and comes back held against what was agreed", async () => {
    const p = ordering(line({ kind: "sent-out", supplier: "" }));
    const { hand } = stage(<LineBench {...p} />);
    expect(screen.queryByRole("button", { name: /fits/ }), "it has to go first").toBeNull();
    await hand.type(screen.getByLabelText("Sent to"), "Grinder");
    await hand.type(screen.getByLabelText("What was measured"), "bore");
    await hand.type(screen.getAllByLabelText("Agreed price or size")[0] ?? document.body, "72.00 mm");
    await hand.click(screen.getByRole("button", { name: /Sent out/ }));
    expect(said(p)).toMatchObject([{ lines: [{ sent: [{ what: "bore", agreed: "72.00 mm" }] }] }]);
  });

  it("comes in and fits by the key of the step", async () => {
    const p = ordering(line({ state: "ordered" }));
    const { hand } = stage(<LineBench {...p} />);
    await hand.keyboard("f");
    expect(said(p)).toEqual([{ act: "came", lines: [{ line: "seal", outcome: "fits" }] }]);
  });

  it("is held against the old part, both sides or none", async () => {
    const p = ordering(line({ state: "ordered", compare: ["ports"] }));
    const { hand } = stage(<LineBench {...p} />);
    await hand.type(screen.getByLabelText("ports, old"), "2");
    await hand.click(screen.getByRole("button", { name: /Arrived, fits/ }));
    expect(said(p), "one side is half a comparison").toEqual([]);
    await hand.type(screen.getByLabelText("ports, new"), "3");
    await hand.click(screen.getByRole("button", { name: /Arrived, fits/ }));
    expect(said(p)).toMatchObject([{ lines: [{ compared: [{ what: "ports", old: "2", new: "3" }] }] }]);
  });

  it("goes back only with what is wrong with it", async () => {
    const p = ordering(line({ state: "here" }));
    const { hand } = stage(<LineBench {...p} />);
    await hand.click(screen.getByRole("button", { name: "Send back" }));
    expect(said(p)).toEqual([]);
    await hand.type(screen.getByLabelText("What is wrong with it?"), "the lip is torn");
    await hand.click(screen.getByRole("button", { name: "Send back" }));
    expect(said(p)).toMatchObject([{ lines: [{ outcome: "back", reason: "the lip is torn" }] }]);
  });

  it("of an exchange has its deposit back as long as the old one is here", async () => {
    const open = ordering(line({ kind: "exchange", state: "here", old_open: true }));
    const { hand, again } = stage(<LineBench {...open} />);
    await hand.click(screen.getByRole("button", { name: /deposit back/ }));
    expect(said(open)).toEqual([{ act: "came", lines: [{ line: "seal", outcome: "deposit-back" }] }]);
    again(<LineBench {...ordering(line({ kind: "exchange", state: "here" }))} />);
    expect(screen.queryByRole("button", { name: /deposit back/ })).toBeNull();
  });

  it("need not come, with the reason, and comes after all without one", async () => {
    const p = ordering(line());
    const { hand, again } = stage(<LineBench {...p} />);
    await hand.type(screen.getByLabelText("Not needed because"), "one lies in the drawer{Enter}");
    expect(said(p)).toMatchObject([{ act: "wanted", lines: [{ outcome: "not-needed" }] }]);
    const not = ordering(line({ state: "not-needed" }));
    again(<LineBench {...not} />);
    await hand.click(screen.getByRole("button", { name: "Needed after all" }));
    expect(said(not)).toEqual([{ act: "wanted", lines: [{ line: "seal", outcome: "wanted" }] }]);
  });
});

describe("a line typed", () => {
  it("is read back before it is put on the list", async () => {
    const p = ordering(line());
    const { hand } = stage(<AddLine {...p} />);
    await hand.type(screen.getByLabelText("Add a line"), "Fork nut, 2 pcs, Bolt shop, 2.50, 5 days");
    expect(screen.getByText(/Fork nut: 2 pieces, from Bolt shop, for 2.50, in 5 days/)).toBeTruthy();
    await hand.keyboard("{Enter}");
    expect(said(p)).toEqual([
      {
        act: "wanted",
        lines: [{ name: "Fork nut", pieces: "2", supplier: "Bolt shop", price: "2.50", lead_days: "5" }],
      },
    ]);
  });
});

describe("the parts list", () => {
  const groups = believed<PartsGroup[]>([
    {
      title: "Seal kit",
      kit: "kit.seals",
      lines: [line({ line: "kit.seals", name: "Seal kit" }), line({ in: "Seal kit" })],
    },
    {
      title: "Singly",
      lines: [
        line({
          line: "nut",
          name: "Nut",
          state: "ordered",
          due: "2026-12-03",
          differs: "ports: 3, not 2",
          compared: [{}],
        }),
      ],
    },
  ]);

  it("goes kit by kit, marks where the hand goes next, and opens a line below itself", async () => {
    const pick = vi.fn();
    const { hand } = stage(
      <Table groups={groups} at="nut" onPick={pick}>
        <p>worked at here</p>
      </Table>,
    );
    expect(document.querySelector("[data-current]")?.getAttribute("data-line")).toBe("kit.seals");
    expect(screen.getByText("in the kit")).toBeTruthy();
    expect(screen.getByText("ports: 3, not 2")).toBeTruthy();
    expect(screen.getByText("worked at here")).toBeTruthy();
    await hand.click(screen.getByRole("button", { name: "Output seal" }));
    expect(pick).toHaveBeenCalledExactlyOnceWith("seal");
  });
});

describe("ways of buying", () => {
  const ways = [
    {
      id: "kit",
      says: "By the kit",
      sum: 90,
      open: 0,
      day: "2026-12-03",
      ready: "2026-12-08",
      in_time: true,
    },
    {
      id: "singles",
      says: "One by one",
      sum: 60,
      open: 1,
      day: "2026-12-10",
      ready: "2026-12-15",
      in_time: false,
    },
  ];

  it("are bars of what they cost, with the sum agreed to, picked by Enter", async () => {
    const pick = vi.fn();
    const { hand } = stage(<Ways ways={ways} way="kit" upTo={80} onPick={pick} />);
    expect(screen.getByText(/customer approved up to/).textContent).toContain("80");
    const other = screen.getByRole("radio", { name: /One by one: 60, 1 without a price or date/ });
    expect(other.textContent).toContain("late");
    other.focus();
    await hand.keyboard("{Enter}");
    expect(pick).toHaveBeenCalledExactlyOnceWith("singles");
  });
});
