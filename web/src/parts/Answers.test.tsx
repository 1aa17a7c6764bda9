// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Held, stage } from "../test/stage";
import { Answers } from "./Answers";
import { Choice, Choices } from "./Choices";

const answers = [
  { id: "dry", text: "Dry", good: true },
  { id: "drips", text: "It drips", good: false },
  { id: "wet", text: "Wet" },
];

const radio = (name: string | RegExp) => screen.getByRole("radio", { name });

describe("answers", () => {
  it("are given by a touch, and shown as given", async () => {
    const { hand } = stage(
      <Held<string | undefined> start={undefined}>
        {(v, on) => <Answers label="Leaks" answers={answers} chosen={v} keyed={false} onPick={on} />}
      </Held>,
    );
    await hand.click(radio("It drips"));
    expect(radio("It drips").getAttribute("aria-checked")).toBe("true");
    expect(radio("Dry").getAttribute("aria-checked")).toBe("false");
  });

  it("have figures as keys only at the line where the hand is", async () => {
    const pick = vi.fn();
    const line = (keyed: boolean) => (
      <Answers label="Leaks" answers={answers} chosen={undefined} keyed={keyed} onPick={pick} />
    );
    const { hand, again } = stage(line(false));
    await hand.keyboard("2");
    expect(pick).not.toHaveBeenCalled();
    again(line(true));
    await hand.keyboard("2");
    expect(pick).toHaveBeenCalledExactlyOnceWith("drips");
  });

  it("are walked through by arrows without writing one", async () => {
    const pick = vi.fn();
    const { hand } = stage(
      <Answers label="Leaks" answers={answers} chosen={undefined} keyed={false} onPick={pick} />,
    );
    radio("Dry").focus();
    await hand.keyboard("{ArrowRight}{ArrowRight}");
    expect(document.activeElement).toBe(radio("Wet"));
    await hand.keyboard("{ArrowRight}");
    expect(document.activeElement, "round the corner").toBe(radio("Dry"));
    expect(pick).not.toHaveBeenCalled();
    await hand.keyboard("{Enter}");
    expect(pick).toHaveBeenCalledExactlyOnceWith("dry");
  });

  it("that only mark are marked as the arrows go", async () => {
    const pick = vi.fn();
    const { hand } = stage(
      <Answers label="Paper" answers={answers} chosen="dry" keyed={false} marks onPick={pick} />,
    );
    radio("Dry").focus();
    await hand.keyboard("{ArrowDown}");
    expect(pick).toHaveBeenCalledExactlyOnceWith("drips");
  });

  it("are not given twice, and none while the server writes", async () => {
    const pick = vi.fn();
    const line = (busy: boolean) => (
      <Answers label="Leaks" answers={answers} chosen="dry" keyed busy={busy} onPick={pick} />
    );
    const { hand, again } = stage(line(false));
    await hand.click(radio(/Dry/));
    again(line(true));
    await hand.click(radio(/It drips/));
    await hand.keyboard("3");
    expect(pick).not.toHaveBeenCalled();
  });

  it("tell where the hand is before it has answered", async () => {
    const near = vi.fn();
    const { hand } = stage(
      <Answers
        label="Leaks"
        answers={answers}
        chosen={undefined}
        keyed={false}
        onPick={() => undefined}
        onNear={near}
      />,
    );
    await hand.hover(radio("Wet"));
    await hand.unhover(radio("Wet"));
    expect(near.mock.calls).toEqual([["wet"], [undefined]]);
  });

  it("have one place in the order of Tab", () => {
    stage(<Answers label="Leaks" answers={answers} chosen="wet" keyed={false} onPick={() => undefined} />);
    expect(screen.getAllByRole("radio").map((r) => r.tabIndex)).toEqual([-1, -1, 0]);
  });
});

describe("choices", () => {
  it("are marked by arrows and by their figures", async () => {
    const { hand } = stage(
      <Held start="a">
        {(v, on) => (
          <>
            <Choices label="School" chosen={v} onPick={on} hands={["a", "b"]}>
              <Choice value="a">At once</Choice>
              <Choice value="b">An hour later</Choice>
            </Choices>
            <output>{v}</output>
          </>
        )}
      </Held>,
    );
    radio("At once").focus();
    await hand.keyboard("{ArrowDown}");
    expect(screen.getByRole("status").textContent).toBe("b");
  });

  it("stand still once they are decided", async () => {
    const pick = vi.fn();
    const { hand } = stage(
      <Choices label="School" chosen="a" onPick={pick} disabled>
        <Choice value="a">At once</Choice>
        <Choice value="b">An hour later</Choice>
      </Choices>,
    );
    await hand.click(radio("An hour later"));
    expect(pick).not.toHaveBeenCalled();
  });
});
