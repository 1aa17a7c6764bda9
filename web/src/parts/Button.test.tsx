// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { stage } from "../test/stage";
import { Button } from "./Button";

describe("a button", () => {
  it("is pressed by a touch and by Enter, and tells its key", async () => {
    const press = vi.fn();
    const { hand } = stage(
      <Button hint="F" onClick={press}>
        Fit this pack
      </Button>,
    );
    const button = screen.getByRole("button", { name: /Fit this pack/ });
    expect(button.getAttribute("aria-keyshortcuts")).toBe("F");
    await hand.click(button);
    button.focus();
    await hand.keyboard("{Enter}");
    expect(press).toHaveBeenCalledTimes(2);
  });

  it("that cannot be pressed keeps the focus and says what comes first", async () => {
    const press = vi.fn();
    const { hand, again } = stage(
      <Button disabled why="Choose one first." onClick={press}>
        Decide
      </Button>,
    );
    const button = screen.getByRole("button");
    expect(button.hasAttribute("disabled")).toBe(false);
    expect(button.getAttribute("aria-disabled")).toBe("true");
    expect(screen.queryByRole("status")).toBeNull();
    await hand.click(button);
    expect(press).not.toHaveBeenCalled();
    expect(screen.getByRole("status").textContent).toBe("Choose one first.");
    expect(document.activeElement).toBe(button);
    again(
      <Button why="Choose one first." onClick={press}>
        Decide
      </Button>,
    );
    expect(screen.queryByRole("status")).toBeNull();
    await hand.click(button);
    expect(press).toHaveBeenCalledOnce();
  });

  it("sends the form it belongs to only while it may be pressed", async () => {
    const sent = vi.fn((e: React.FormEvent) => e.preventDefault());
    const form = (disabled: boolean) => (
      <>
        <form id="job" onSubmit={sent} />
        <Button type="submit" form="job" disabled={disabled}>
          Open the rebuild
        </Button>
      </>
    );
    const { hand, again } = stage(form(true));
    await hand.click(screen.getByRole("button"));
    expect(sent).not.toHaveBeenCalled();
    again(form(false));
    await hand.click(screen.getByRole("button"));
    expect(sent).toHaveBeenCalledOnce();
  });
});
