import { useRef, type RefObject } from "react";
import { resultOf } from "../../model/results";
import type { StepOf } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choices, Reasoned } from "../../parts/Choices";
import { Field } from "../../parts/Field";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { PromiseDay } from "../PromiseDay";
import type { PropsOf } from "../props";
import { Agreed } from "./Agreed";
import { Chain } from "./Chain";
import { useDecision, type Decision } from "./decision";
import { Points } from "./Points";
import { Undone } from "./Undone";

/** One way is taken; some keep the rebuild waiting, and the lead's is the signature. */
export default function DecideStep(p: PropsOf<"decide">) {
  const { view } = p;
  const form = useRef<HTMLFormElement>(null);
  const said = useDecision(p, () => form.current?.querySelector("input")?.focus());
  const { old, picked } = said;
  useKey("act", "decide", () => said.decide(), said.may);
  return (
    <>
      {view.parts && view.parts.length > 0 && (
        <Chain parts={view.parts} chain={said.chain} onChain={said.setChain} />
      )}
      <Points {...p} />
      <Undone {...p} />
      <div className="border border-ink mt-3.5">
        <Ways view={view} picked={picked} onPick={said.setChoice} />
        <Reason form={form} said={said} first={view.step.role === "lead" ? "Sign" : "Decide"} />
        {old && <Decided view={view} old={old} />}
      </div>
      <Agreed key={old?.body.outcome} {...p} way={old?.body.outcome ?? picked} />
      <Promised {...p} picked={picked} />
    </>
  );
}

/** The day a way means, where ways are weighed. */
function Promised({ picked, ...p }: PropsOf<"decide"> & { picked: string }) {
  const weighed = p.view.weighed?.find((w) => w.calc === "decide");
  return (
    weighed && (
      <MarginSlot>
        <PromiseDay {...p} way={picked || (resultOf("decide", weighed.result)?.choice ?? "")} />
      </MarginSlot>
    )
  );
}

type WaysProps = { view: StepOf<"decide">; picked: string; onPick: (id: string) => void };

const Ways = ({ view, picked, onPick }: WaysProps) => (
  <Choices
    label={view.step.title}
    chosen={picked}
    onPick={onPick}
    hands={view.choices.slice(0, 9).map((c) => c.id)}
  >
    {view.choices.map((c, i) => (
      <Reasoned
        key={c.id}
        id={c.id}
        {...(i < 9 && { figure: i + 1 })}
        title={`${c.text}${c.default ? " (our way)" : ""}${c.likely ? `, ${Math.round(100 * c.likely)} %` : ""}`}
        text={c.holds ? "The rebuild is on hold until this is decided again." : c.why}
      />
    ))}
  </Choices>
);

type DecidedProps = { view: StepOf<"decide">; old: NonNullable<Decision["old"]> };

const Decided = ({ view, old }: DecidedProps) => (
  <p className="px-4 pb-3 text-quiet">
    Decided by {old.by.name}: {view.choices.find((c) => c.id === old.body.outcome)?.text}
    {old.body.reason && `, ${old.body.reason}`}
  </p>
);

type ReasonProps = { form: RefObject<HTMLFormElement | null>; said: Decision; first: string };

const Reason = ({ form, said, first }: ReasonProps) => (
  <form
    ref={form}
    className="p-4 border-t border-ink flex flex-wrap gap-3 items-end"
    onSubmit={(e) => {
      e.preventDefault();
      if (said.may) said.decide();
    }}
  >
    <Field
      label="Reason"
      value={said.reason}
      onValue={said.setReason}
      error={said.lacking ? "This choice needs a reason." : undefined}
      className="grow basis-[260px]"
    />
    <Button
      look="go"
      hint="F"
      type="submit"
      name="decision"
      disabled={!said.may}
      why={said.unchanged ? "It is decided so already." : "Choose one first."}
    >
      {said.old ? "Change decision" : first}
    </Button>
  </form>
);
