// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { stage } from "../test/stage";
import { KeptFor, LeftBehind, useKept } from "./kept";

function Remark({ place, initial = "" }: { place: string; initial?: string }) {
  const [text, setText] = useKept(place, initial);
  return <input aria-label="Remark" value={text} onChange={(e) => setText(e.target.value)} />;
}

const remark = () => screen.getByLabelText("Remark");

describe("what was typed", () => {
  it("survives that the screen is left and opened again", async () => {
    const { hand, again } = stage(<Remark place="note.one" />);
    await hand.type(remark(), "it howls above 40");
    again(<p>Another screen</p>);
    again(<Remark place="note.one" />);
    expect(remark()).toHaveProperty("value", "it howls above 40");
  });

  it("stands at its own place only", async () => {
    const { hand, again } = stage(<Remark place="note.one" />);
    await hand.type(remark(), "here");
    again(<Remark place="note.two" />);
    expect(remark()).toHaveProperty("value", "");
    again(<Remark place="note.one" />);
    expect(remark()).toHaveProperty("value", "here");
  });

  it("is its person's and its rebuild's alone", async () => {
    const { hand, again } = stage(
      <KeptFor scope="r1">
        <Remark place="note" />
      </KeptFor>,
    );
    await hand.type(remark(), "of the first");
    again(
      <KeptFor scope="r2">
        <Remark place="note" />
      </KeptFor>,
    );
    expect(remark()).toHaveProperty("value", "");
  });

  it("begins with what is known, and an emptied field stays empty", async () => {
    const { hand, again } = stage(<Remark place="tray" initial="A1" />);
    expect(remark()).toHaveProperty("value", "A1");
    await hand.clear(remark());
    again(<p>Another screen</p>);
    again(<Remark place="tray" initial="A1" />);
    expect(remark()).toHaveProperty("value", "");
  });
});

describe("what was typed for a place that is taken", () => {
  const names: Record<string, string> = { "p1.b2": "bolt 2, pass 1" };
  const left = (onGo?: (at: string) => void) => (
    <>
      <Remark place="torque/p1.b2" />
      <LeftBehind place="torque" name={(at) => names[at]} {...(onGo && { onGo })} />
    </>
  );

  it("is shown with its place, and taken on there", async () => {
    const go = vi.fn();
    const { hand, again } = stage(left(go));
    expect(screen.queryByRole("status")).toBeNull();
    await hand.type(remark(), "24");
    again(left(go));
    expect(screen.getByRole("status").textContent).toContain("Not recorded: 24 for bolt 2, pass 1.");
    await hand.click(screen.getByRole("button", { name: "Replace theirs with mine" }));
    expect(go).toHaveBeenCalledExactlyOnceWith("p1.b2");
  });

  it("is thrown away when somebody says so", async () => {
    const { hand, again } = stage(left());
    await hand.type(remark(), "24");
    again(left());
    await hand.click(screen.getByRole("button", { name: "Discard mine" }));
    expect(screen.queryByRole("status")).toBeNull();
    expect(remark()).toHaveProperty("value", "");
  });

  it("is not shown where its place is open", async () => {
    const { hand } = stage(
      <>
        <Remark place="torque/p9.b9" />
        <LeftBehind place="torque" name={(at) => names[at]} />
      </>,
    );
    await hand.type(remark(), "24");
    expect(screen.queryByRole("status")).toBeNull();
  });
});
