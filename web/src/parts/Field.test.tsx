// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Held, stage } from "../test/stage";
import { DayField } from "./DayField";
import { Field } from "./Field";
import { Picked } from "./Picked";
import { press } from "./press";
import { Words } from "./Words";

describe("a field", () => {
  it("holds what is typed, under its label, with its unit beside it", async () => {
    const { hand } = stage(
      <Held start="">{(v, on) => <Field label="Quantity" value={v} onValue={on} unit="L" numeric />}</Held>,
    );
    const field = screen.getByLabelText("Quantity");
    await hand.type(field, "2,4");
    expect(field).toHaveProperty("value", "2,4");
    expect(screen.getByText("L")).toBeTruthy();
  });

  it("is told apart when it is wrong, and says why where a reader finds it", () => {
    stage(<Field label="Up to" value="1,250" onValue={() => undefined} error="it reads two ways" />);
    const field = screen.getByLabelText("Up to");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    const says = document.getElementById(field.getAttribute("aria-describedby") ?? "");
    expect(says?.textContent).toBe("it reads two ways");
    expect(says?.getAttribute("role")).toBe("alert");
  });

  it("is reached by its key", async () => {
    const { hand } = stage(<Field label="Tray" value="" onValue={() => undefined} hotkey="tray" />);
    await hand.keyboard("t");
    expect(document.activeElement).toBe(screen.getByLabelText(/Tray/));
  });
});

describe("several lines", () => {
  it("hold what is typed, and say what is wrong with it", async () => {
    const { hand } = stage(
      <Held start="">
        {(v, on) => (
          <Words label="Complaint" value={v} onValue={on} rows={2} error={v === "" ? "say it" : undefined} />
        )}
      </Held>,
    );
    const box = screen.getByLabelText("Complaint");
    expect(screen.getByRole("alert").textContent).toBe("say it");
    expect(box.getAttribute("aria-invalid")).toBe("true");
    await hand.type(box, "it howls{Enter}above 40");
    expect(box).toHaveProperty("value", "it howls\nabove 40");
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

describe("what is drawn", () => {
  it("is pressed by a touch, by Enter and by Space, and by no other key", async () => {
    const act = vi.fn();
    const { hand } = stage(
      <svg>
        <g role="button" aria-label="Rebuild here" {...press(act)} />
      </svg>,
    );
    const drawn = screen.getByRole("button", { name: "Rebuild here" });
    await hand.click(drawn);
    drawn.focus();
    await hand.keyboard("{Enter} x");
    expect(act).toHaveBeenCalledTimes(3);
  });
});

describe("a day", () => {
  it("is written as all days are, however it is typed", async () => {
    const { hand } = stage(
      <Held start="">
        {(v, on) => (
          <>
            <DayField label="Due" value={v} onValue={on} />
            <output>{v}</output>
          </>
        )}
      </Held>,
    );
    const field = screen.getByLabelText("Due");
    await hand.type(field, "+1");
    expect(screen.getByRole("status").textContent).toMatch(/^\d{4}-\d\d-\d\d$/);
    await hand.clear(field);
    await hand.type(field, "next moon");
    expect(screen.queryByRole("alert"), "while the hand is there").toBeNull();
    await hand.tab();
    expect(screen.getByRole("alert").textContent).toContain("a day, like 2026-12-03");
  });
});

describe("one of many", () => {
  it("is picked by what it is called, and each stands there once", async () => {
    const { hand } = stage(
      <Held start="">
        {(v, on) => (
          <>
            <Picked label="Family" value={v} onValue={on} of={["", { id: "b2", text: "Brakka T2" }, "b2"]} />
            <output>{v}</output>
          </>
        )}
      </Held>,
    );
    expect(screen.getAllByRole("option")).toHaveLength(2);
    await hand.selectOptions(screen.getByLabelText("Family"), "b2");
    expect(screen.getByRole("status").textContent).toBe("b2");
  });
});
