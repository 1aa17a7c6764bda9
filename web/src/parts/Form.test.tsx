// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { ApiError } from "../model/problem";
import { stage } from "../test/stage";
import { Fault } from "./Fault";
import { Form, useForm } from "./Form";
import { Listed, Row } from "./Listed";

const refused = (...fields: { path: string; problem: string; accepted: string }[]) =>
  new ApiError({ type: "about:blank", status: 422, title: "It does not fit", fields });

type Write = Parameters<typeof Form<{ name: string; rate: string }>>[0]["write"];

function Gauge({ write, onTaken }: { write: Write; onTaken?: () => void }) {
  const form = useForm({ name: "", rate: "" }, write);
  const whole = form.said.name.trim() !== "";
  return (
    <Form
      label="One more gauge"
      write={write}
      value={whole ? form.said : undefined}
      go="Keep it"
      onTaken={() => {
        form.clear();
        onTaken?.();
      }}
    >
      {form.line("name", "Called")}
      {form.line("rate", "Resolution", { inputMode: "decimal" })}
    </Form>
  );
}

const writing = (more: Partial<Write> = {}): Write => ({
  mutate: vi.fn(),
  isPending: false,
  error: null,
  ...more,
});

describe("a form", () => {
  it("sends what was typed, by Enter too, and is empty once it is taken", async () => {
    const write = writing({ mutate: vi.fn((_, then) => then?.onSuccess?.()) });
    const taken = vi.fn();
    const { hand } = stage(<Gauge write={write} onTaken={taken} />);
    await hand.type(screen.getByLabelText("Called"), "Dial");
    await hand.type(screen.getByLabelText("Resolution"), "0,01 mm{Enter}");
    expect(write.mutate).toHaveBeenCalledOnce();
    expect(vi.mocked(write.mutate).mock.calls[0]?.[0]).toEqual({ name: "Dial", rate: "0,01 mm" });
    expect(taken).toHaveBeenCalledOnce();
    expect(screen.getByLabelText("Called")).toHaveProperty("value", "");
  });

  it("keeps what was typed when it is refused, with the reason at its line", async () => {
    const { hand, again } = stage(<Gauge write={writing()} />);
    await hand.type(screen.getByLabelText("Called"), "Dial");
    const error = refused({ path: "rate", problem: "1,250 reads two ways", accepted: "0.01 mm" });
    again(<Gauge write={writing({ error })} />);
    expect(screen.getByLabelText("Called")).toHaveProperty("value", "Dial");
    expect(screen.getByLabelText("Resolution").getAttribute("aria-invalid")).toBe("true");
    expect(screen.getAllByRole("alert"), "said once, at its line").toHaveLength(1);
  });

  it("says at its foot what no line of it is wrong about", () => {
    stage(<Gauge write={writing({ error: new Error("The server cannot be reached.") })} />);
    expect(screen.getByRole("alert").textContent).toBe("The server cannot be reached.");
  });

  it("sends nothing while it is not whole, or is being sent", async () => {
    const open = writing();
    const { hand, again } = stage(<Gauge write={open} />);
    await hand.click(screen.getByRole("button", { name: /Keep it/ }));
    const busy = writing({ isPending: true });
    again(<Gauge write={busy} />);
    await hand.type(screen.getByLabelText("Called"), "Dial{Enter}");
    expect(open.mutate).not.toHaveBeenCalled();
    expect(busy.mutate).not.toHaveBeenCalled();
  });
});

describe("a list", () => {
  const list = (of: string[] | undefined, error: Error | null = null) => (
    <Listed
      title="Gauges"
      list={of}
      error={error}
      keyOf={(x) => x}
      row={(x) => (
        <Row title={x} says="reads to 0.01 mm">
          <button type="button">Take it away</button>
        </Row>
      )}
      none="No gauge is named yet."
    />
  );

  it("has a line each, with what can be done there", () => {
    stage(list(["Dial", "Depth gauge"]));
    expect(screen.getAllByRole("listitem")).toHaveLength(2);
    expect(screen.getAllByRole("button", { name: "Take it away" })).toHaveLength(2);
    expect(screen.queryByText("No gauge is named yet.")).toBeNull();
  });

  it("says that there is nothing only once it has been read", () => {
    const { again } = stage(list(undefined));
    expect(screen.queryByText("No gauge is named yet.")).toBeNull();
    again(list([]));
    expect(screen.getByText("No gauge is named yet.")).toBeTruthy();
  });

  it("says what went wrong with reading it", () => {
    stage(list(undefined, new Error("The database is away.")));
    expect(screen.getByRole("alert").textContent).toBe("The database is away.");
  });
});

describe("a fault", () => {
  it("names the field as the screen calls it, and what is accepted", () => {
    const error = refused({ path: "hourly_rate", problem: "it reads two ways", accepted: "62 or 62.50" });
    const { again } = stage(<Fault error={error} />);
    expect(screen.getByRole("alert").textContent).toBe("hourly rate: it reads two ways Type: 62 or 62.50.");
    again(<Fault error={error} named={() => "An hour"} />);
    expect(screen.getByRole("alert").textContent).toContain("An hour: ");
  });

  it("of the server carries the number it is found by in the log", () => {
    const error = new ApiError({
      type: "about:blank",
      status: 500,
      title: "Broken",
      detail: "Nothing was kept.",
      request_id: "r-17",
    });
    stage(<Fault error={error} />);
    expect(screen.getByRole("alert").textContent).toContain("number r-17");
  });

  it("is not called out while somebody types, but once the hand rests", async () => {
    const error = new Error("24 what?");
    stage(<Fault error={error} typing />);
    expect(screen.queryByRole("alert")).toBeNull();
    expect((await screen.findByRole("alert", {}, { timeout: 3000 })).textContent).toBe("24 what?");
  });
});
