// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Fields, Schema } from "../model/schema";
import { Held, stage } from "../test/stage";
import { SchemaForm } from "./SchemaForm";

const schema: Schema = {
  type: "object",
  required: ["torque", "readings"],
  properties: {
    torque: { type: "string" },
    grade: { type: "string", enum: ["", "dry", "oiled_threads"] },
    greased: { type: "boolean" },
    readings: {
      type: "array",
      items: {
        type: "object",
        required: ["clock", "reading"],
        properties: { clock: { type: "number" }, reading: { type: "string" } },
      },
    },
  },
};

const form = (start: Fields, errors: Record<string, string> = {}) => (
  <Held start={start}>
    {(value, on) => (
      <>
        <SchemaForm
          schema={schema}
          value={value}
          onValue={on}
          errorAt={(path) => errors[path]}
          words={(name) => name.replaceAll("_", " ")}
        />
        <output>{JSON.stringify(value)}</output>
      </>
    )}
  </Held>
);

const said = () => JSON.parse(screen.getByRole("status").textContent) as Fields;

describe("a form of any input", () => {
  it("has what must be said open, and the rest below", async () => {
    const { hand } = stage(form({}));
    expect(screen.getByLabelText("Torque")).toBeTruthy();
    expect(screen.queryByRole("radiogroup")).toBeNull();
    await hand.click(screen.getByRole("button", { name: "More inputs" }));
    expect(screen.getByRole("radiogroup", { name: "Grade" })).toBeTruthy();
  });

  it("keeps what was typed as text: figures are read in Go", async () => {
    const { hand } = stage(form({}));
    await hand.type(screen.getByLabelText("Torque"), "1,250 N·m");
    expect(said()).toEqual({ torque: "1,250 N·m" });
  });

  it("takes one of a few words back when it is picked again", async () => {
    const { hand } = stage(form({ grade: "" }));
    await hand.click(screen.getByRole("radio", { name: "oiled threads" }));
    expect(said()["grade"]).toBe("oiled_threads");
  });

  it("begins one more line, types in it, and takes the last away", async () => {
    const { hand } = stage(form({}));
    const list = screen.getByRole("group", { name: "Readings" });
    await hand.click(within(list).getByRole("button", { name: "Add a line" }));
    await hand.click(within(list).getByRole("button", { name: "Add a line" }));
    await hand.type(within(list).getAllByLabelText("Reading")[1] ?? list, "0.12 mm");
    expect(said()["readings"]).toMatchObject([{}, { reading: "0.12 mm" }]);
    await hand.click(within(list).getByRole("button", { name: "One less" }));
    expect(said()["readings"]).toHaveLength(1);
  });

  it("says what is wrong at the very line", () => {
    stage(
      form(
        { readings: [{ clock: "12", reading: "x" }] },
        { "readings[0].reading": "x is no length", readings: "three at least" },
      ),
    );
    expect(screen.getByLabelText("Reading").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText("three at least")).toBeTruthy();
  });

  it("says yes or no with a mark", async () => {
    const { hand } = stage(form({ greased: false }));
    await hand.click(screen.getByLabelText("Greased"));
    expect(said()["greased"]).toBe(true);
  });
});
