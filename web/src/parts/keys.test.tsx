// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { stage } from "../test/stage";
import { turnLetters, useKey, useKeyList } from "./keys";

function Bound({ run, enabled = true }: { run: () => void; enabled?: boolean }) {
  useKey("act", "fit this pack", run, enabled);
  const list = useKeyList();
  return (
    <>
      <input aria-label="Remark" />
      <button type="button">Elsewhere</button>
      <ul>
        {list.map((k) => (
          <li key={k.key}>{`${k.key}: ${k.says}`}</li>
        ))}
      </ul>
    </>
  );
}

describe("a key", () => {
  it("does its one thing outside a field, whether the letter is small or large", async () => {
    const run = vi.fn();
    const { hand } = stage(<Bound run={run} />);
    await hand.keyboard("f");
    await hand.keyboard("F");
    expect(run).toHaveBeenCalledTimes(2);
  });

  it("writes its letter in a field, and does its thing there with Alt", async () => {
    const run = vi.fn();
    const { hand } = stage(<Bound run={run} />);
    const field = screen.getByLabelText("Remark");
    await hand.type(field, "f");
    expect(field).toHaveProperty("value", "f");
    expect(run).not.toHaveBeenCalled();
    await hand.keyboard("{Alt>}f{/Alt}");
    expect(run).toHaveBeenCalledOnce();
  });

  it("says nothing while it is disabled, once it is gone, and to a hand that holds Control", async () => {
    const run = vi.fn();
    const { hand, again } = stage(<Bound run={run} enabled={false} />);
    await hand.keyboard("f");
    again(<Bound run={run} />);
    await hand.keyboard("{Control>}f{/Control}");
    again(<p>Another screen</p>);
    await hand.keyboard("f");
    expect(run).not.toHaveBeenCalled();
  });

  it("that is held says its thing once", () => {
    const run = vi.fn();
    stage(<Bound run={run} />);
    fireEvent.keyDown(document.body, { key: "f", code: "KeyF" });
    fireEvent.keyDown(document.body, { key: "f", code: "KeyF", repeat: true });
    fireEvent.keyDown(document.body, { key: "f", code: "KeyF", repeat: true });
    expect(run).toHaveBeenCalledOnce();
  });

  it("runs what its screen means now, not what it meant when it was bound", async () => {
    const [first, second] = [vi.fn(), vi.fn()];
    const { hand, again } = stage(<Bound run={first} />);
    again(<Bound run={second} />);
    await hand.keyboard("f");
    expect(first).not.toHaveBeenCalled();
    expect(second).toHaveBeenCalledOnce();
  });

  it("is found by its place where the layout writes another script", () => {
    const run = vi.fn();
    stage(<Bound run={run} />);
    fireEvent.keyDown(document.body, { key: "а", code: "KeyF" });
    expect(run).toHaveBeenCalledOnce();
  });

  it("waits while a dialog is open", async () => {
    const run = vi.fn();
    const { hand } = stage(
      <>
        <Bound run={run} />
        <div role="dialog" aria-label="Sign in again" />
      </>,
    );
    await hand.keyboard("f");
    expect(run).not.toHaveBeenCalled();
  });

  it("that belongs to a field which was just taken away goes nowhere", async () => {
    const run = vi.fn();
    const { hand, again } = stage(
      <>
        <Bound run={run} />
        <input aria-label="Reading" />
      </>,
    );
    await hand.type(screen.getByLabelText("Reading"), "2");
    again(<Bound run={run} />);
    await hand.keyboard("f");
    expect(run).not.toHaveBeenCalled();
  });
});

describe("letters", () => {
  it("are off for who speaks to the screen, and work with Alt anywhere", async () => {
    const run = vi.fn();
    const { hand } = stage(<Bound run={run} />);
    turnLetters(true);
    await hand.keyboard("f");
    expect(run).not.toHaveBeenCalled();
    await hand.keyboard("{Alt>}f{/Alt}");
    expect(run).toHaveBeenCalledOnce();
    turnLetters(false);
    await hand.keyboard("f");
    expect(run).toHaveBeenCalledTimes(2);
  });
});

describe("the list of keys", () => {
  it("is opened by a question mark, not by one that is typed", async () => {
    const { hand, help } = stage(<Bound run={vi.fn()} />);
    await hand.type(screen.getByLabelText("Remark"), "?");
    expect(help).not.toHaveBeenCalled();
    await hand.click(screen.getByRole("button", { name: "Elsewhere" }));
    await hand.keyboard("?");
    expect(help).toHaveBeenCalledOnce();
  });

  it("names what works now", () => {
    const { again } = stage(<Bound run={vi.fn()} />);
    again(<Bound run={vi.fn()} />);
    expect(screen.getByText("F: fit this pack")).toBeTruthy();
  });
});
