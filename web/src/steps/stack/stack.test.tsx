// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stage } from "../../test/stage";
import { at, entry, said } from "../../test/step";
import { FoundPart } from "./FoundPart";
import { PartList } from "./PartList";
import { PartShape } from "./PartShape";
import { RemovePart } from "./RemovePart";
import { believed } from "../../model/json";
import type { StackPart } from "../../model/types";

const part = (more: object) =>
  believed<StackPart>({ id: "seal", name: "Output seal", answers: [], says: "", ...more });

const taking = (more: object = {}, correcting = false) => ({
  ...at("stack", { work: "remove", stack: [part({}), part({ id: "nut", name: "Nut" })] }, ["removed"]),
  part: part(more),
  correcting,
});

describe("a part that comes off", () => {
  it("is laid down by Enter, with the way it faced and its tray", async () => {
    const p = taking({ faces: "lip to the oil" });
    const { hand } = stage(<RemovePart {...p} />);
    await hand.click(screen.getByRole("button", { name: "rear" }));
    await hand.type(screen.getByLabelText(/Tray/), "A1{Enter}");
    expect(said(p)).toEqual([
      { act: "removed", item: "seal", outcome: "removed", faces: "faces rear", tray: "A1" },
    ]);
  });

  it("is missing by its key, and nothing is said of where it lies", async () => {
    const p = taking();
    const { hand } = stage(<RemovePart {...p} />);
    await hand.type(screen.getByLabelText(/Tray/), "A1");
    await hand.click(screen.getByRole("heading"));
    await hand.keyboard("v");
    expect(said(p)).toEqual([{ act: "removed", item: "seal", outcome: "not-found" }]);
  });

  it("begins with what is known, and empties for the next", async () => {
    const p = taking({ faces: "lip to the oil", bolts: "six bolts" });
    const { hand } = stage(<RemovePart {...p} />);
    expect(screen.getByLabelText("Faces")).toHaveProperty("value", "lip to the oil");
    await hand.type(screen.getByLabelText(/Tray/), "B2{Enter}");
    expect(screen.getByLabelText(/Tray/)).toHaveProperty("value", "");
  });

  it("unfolds what is measured as it comes out where the sheet asks for it", async () => {
    const p = taking({ measure: "thickness of the shim" });
    const { hand } = stage(<RemovePart {...p} />);
    await hand.type(screen.getByLabelText("Measured: thickness of the shim"), "1,52 mm{Enter}");
    expect(said(p)).toMatchObject([{ value: "1,52 mm" }]);
  });

  it("is corrected with all that was said of it, or moved a place", async () => {
    const was = { seen: "faces front", tray: "A1", mark: "two dots", removed: "removed" };
    const p = taking(was, true);
    const { hand } = stage(<RemovePart {...p} />);
    expect(screen.getByLabelText("Mark or tag")).toHaveProperty("value", "two dots");
    await hand.click(screen.getByRole("button", { name: "Move later" }));
    expect(said(p)).toMatchObject([{ faces: "faces front", tray: "A1", mark: "two dots", behind: "nut" }]);
  });
});

describe("a part that no plan foresaw", () => {
  it("is typed in one line, read back, and said", async () => {
    const p = at("stack", { work: "remove", stack: [part({ removed: "removed" })] }, ["removed"]);
    const { hand } = stage(<FoundPart {...p} />);
    await hand.type(screen.getByRole("textbox"), "Spacer, faces rear, tray 3, 1.52 mm");
    expect(screen.getByRole("status").textContent).toBe(
      "Spacer: faces rear; tray 3; 1.52 mm, after Output seal",
    );
    await hand.keyboard("{Enter}");
    expect(said(p)).toEqual([
      {
        act: "removed",
        outcome: "removed",
        name: "Spacer",
        faces: "faces rear",
        tray: "tray 3",
        value: "1.52 mm",
        behind: "seal",
      },
    ]);
    expect(screen.getByRole("textbox")).toHaveProperty("value", "");
  });

  it("is none while it has no name", async () => {
    const p = at("stack", { work: "remove", stack: [] }, ["removed"]);
    const { hand } = stage(<FoundPart {...p} />);
    await hand.type(screen.getByRole("textbox"), "  , faces rear{Enter}");
    expect(said(p)).toEqual([]);
  });
});

describe("the list of parts", () => {
  it("picks one that is open, and corrects one that is done", async () => {
    const picked: string[] = [];
    const corrected: string[] = [];
    const parts = [part({ removed: "removed", tray: "A1" }), part({ id: "nut", name: "Nut", pieces: 2 })];
    const { hand } = stage(
      <PartList
        parts={parts}
        numbers={new Map([["seal", 1]])}
        work="remove"
        current="nut"
        onPick={(id) => picked.push(id)}
        onCorrect={(id) => corrected.push(id)}
      />,
    );
    const rows = screen.getAllByRole("row");
    expect(within(rows[1] ?? rows[0]!).getByText("A1")).toBeTruthy();
    expect(screen.getByText("× 2")).toBeTruthy();
    await hand.click(screen.getByRole("button", { name: "Nut" }));
    await hand.click(screen.getByRole("button", { name: "correct Output seal" }));
    expect([picked, corrected]).toEqual([["nut"], ["seal"]]);
  });
});

describe("a part in its section", () => {
  const drawn = (more: object, work: string, isCurrent = false) =>
    stage(
      <svg>
        <PartShape
          part={part({ shape: "seal", ...more })}
          size={{ w: 24, h: 60 }}
          work={work}
          isCurrent={isCurrent}
        />
      </svg>,
    ).container.querySelector("svg > g");

  it.each([
    ["dashed while it is still on", {}, "remove", "4 3"],
    ["whole once it is off", { removed: "removed" }, "remove", null],
    ["gapped where it was not there", { removed: "not-found", not_found: true }, "inspect", "2 4"],
    ["dashed until it is back in", {}, "fit", "4 3"],
    ["whole once it is in", { fitted: "fitted" }, "fit", null],
  ])("is %s", (_, more, work, dashes) => {
    expect(drawn(more, work)?.getAttribute("stroke-dasharray") ?? null).toBe(dashes);
  });

  it("is blue where the hand is", () => {
    expect(drawn({}, "remove", true)?.getAttribute("class")).toContain("stroke-blue");
  });

  it.each(["replace", "rework", "reuse"])("is marked: %s", (verdict) => {
    expect(drawn({ verdict, removed: "removed" }, "inspect")?.querySelector("path[transform]")).toBeTruthy();
  });
});

it("an entry of a test is said by somebody", () => {
  expect(entry("removed").by.name).toBe("Odo Brandt");
});
