import { expect, test } from "vitest";
import { bought, ordersOf, pairsOf, type PartLine, partWords, typedPart } from "./parts";

const line = (line: string, more: Partial<PartLine> = {}): PartLine => ({
  line,
  name: line,
  kind: "part",
  why: "",
  pieces: 1,
  packs: "",
  supplier: "Ferry stores",
  state: "to-order",
  state_says: "to order",
  compare: [],
  compared: [],
  asked: true,
  lead_days: 2,
  ...more,
});

function undated(id: string): PartLine {
  const { lead_days: _, ...rest } = line(id, { supplier: "" });
  return rest;
}

test("a kit is ordered for what it brings, and each supplier gets one order", () => {
  const groups = [
    { title: "In Seal set", kit: "kit.seals", lines: [line("kit.seals", { lead_days: 4 }), line("seal")] },
    {
      title: "What the kit lacks",
      lines: [
        line("sleeve", { supplier: "Mainland gears" }),
        line("nut"),
        undated("odd"),
        line("bearing", { state: "here" }),
        line("cup", { state: "back" }),
        line("gone", { asked: false }),
      ],
    },
  ];
  expect(bought(groups).map((l) => l.line)).not.toContain("seal");
  expect(ordersOf(groups).map((o) => [o.supplier, o.lines.map((l) => l.line), o.lead])).toEqual([
    ["Ferry stores", ["kit.seals", "nut", "cup"], 4],
    ["Mainland gears", ["sleeve"], 2],
    ["", ["odd"], undefined],
  ]);
});

test.each([
  ["Fork nut M7 x 1.0", { name: "Fork nut M7 x 1.0" }],
  [
    "Fork nut M7 x 1.0, 2 pcs, Bolt shop, 2,50, 5 days",
    { name: "Fork nut M7 x 1.0", pieces: "2", supplier: "Bolt shop", price: "2,50", lead_days: "5" },
  ],
  [
    "Seal, 14, because the lip is hard, 1 day",
    { name: "Seal", price: "14", reason: "the lip is hard", lead_days: "1" },
  ],
  [
    "send out: Case to be bored, Machine works",
    { name: "Case to be bored", kind: "sent-out", supplier: "Machine works" },
  ],
  ["Exchange: Shift motor, deposit 40", { name: "Shift motor", kind: "exchange", deposit: "40" }],
  ["  ", undefined],
  ["Seal, Ferry, only the blue one", { name: "Seal", supplier: "Ferry", reason: "only the blue one" }],
])("%s", (text, said) => {
  expect(typedPart(text)).toEqual(said);
});

test("what was understood is read back", () => {
  expect(partWords({ name: "Nut", pieces: 2, supplier: "Bolt shop", price: 2.5, lead_days: 5 })).toBe(
    "2 pieces, from Bolt shop, for 2.5, in 5 days",
  );
  expect(partWords({ name: "Motor", kind: "exchange", deposit: 40 })).toBe(
    "exchange unit, 1 piece, deposit 40",
  );
});

test("what comes back is held against what was agreed", () => {
  const sent = [
    { what: "bore", reads: "62.03 mm", agreed: "62.00 mm" },
    { what: "weight", reads: "9 kg" },
  ];
  expect(pairsOf(line("own-1", { sent, compare: ["ports"] }))).toEqual([
    { what: "bore", old: "62.00 mm", new: "" },
    { what: "ports", old: "", new: "" },
  ]);
});
