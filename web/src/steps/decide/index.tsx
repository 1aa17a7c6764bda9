import { useRef, useState } from "react";
import { chainOf } from "../../model/chain";
import { resultOf } from "../../model/results";
import { liveAt, type StepOf } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choices, Reasoned } from "../../parts/Choices";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { PromiseDay } from "../PromiseDay";
import type { PropsOf } from "../props";
import { Agreed } from "./Agreed";
import { Chain } from "./Chain";
import { Points } from "./Points";

/** One way is taken; some keep the rebuild waiting, and the lead's is the signature. */
export default function DecideStep(p: PropsOf<"decide">) {
  const { view, plan } = p;
  const said = useDecision(p);
  const { old, picked } = said;
  const weighed = view.weighed?.find((w) => w.calc === "decide");
  const handover = plan.route.stations.flatMap((s) => s.steps).find((s) => s.id === view.step.id)?.handover;
  useKey("act", "decide", () => said.decide(), said.may);
  return (
    <>
      {view.parts && view.parts.length > 0 && (
        <Chain parts={view.parts} chain={said.chain} onChain={said.setChain} />
      )}
      <Points {...p} />
      <div className="border border-ink mt-3.5">
        <Ways view={view} picked={picked} onPick={said.setChoice} />
        <Reason said={said} word={old ? "Decide anew" : view.step.role === "lead" ? "Sign" : "Decide"} />
        {old && (
          <p className="px-4 pb-3 text-quiet">
            Decided by {old.by.name}: {view.choices.find((c) => c.id === old.body.outcome)?.text}
            {old.body.reason && `, ${old.body.reason}`}
          </p>
        )}
        {handover && (
          <ol className="px-8 pb-4 list-decimal">
            {handover.map((h) => (
              <li key={h}>{h}</li>
            ))}
          </ol>
        )}
      </div>
      <Agreed key={old?.body.outcome} {...p} way={old?.body.outcome ?? picked} />
      {weighed && (
        <MarginSlot>
          <PromiseDay {...p} way={picked || (resultOf("decide", weighed.result)?.choice ?? "")} />
        </MarginSlot>
      )}
    </>
  );
}

/** The decision as it is being said: the choice, why, and the chain of a root cause. */
function useDecision({ view, say }: PropsOf<"decide">) {
  const old = liveAt(view.entries, "decision");
  const [choice, setChoice] = useKept(`choice.${view.step.id}`);
  const [reason, setReason] = useKept(`reason.${view.step.id}`);
  const was = JSON.stringify(view.chain ?? []);
  const [kept, setKept] = useKept(`chain.${view.step.id}`, was);
  const chain = chainOf(kept).map(({ how, ...l }) => ({ ...l, ...(how?.trim() && { how: how.trim() }) }));
  const picked = choice || old?.body.outcome || (view.choices.find((c) => c.default)?.id ?? "");
  // The reason stands as long as the choice does.
  const because = reason.trim() || (picked === old?.body.outcome ? (old.body.reason ?? "") : "");
  const unchanged = old !== undefined && choice === "" && reason === "" && JSON.stringify(chain) === was;
  const clear = () => {
    setChoice("");
    setReason("");
    setKept(was);
  };
  const form = useRef<HTMLFormElement>(null);
  const [asked, setAsked] = useState(false);
  const lacks = because === "" && view.choices.some((c) => c.id === picked && c.reason);
  const decide = () => {
    setAsked(lacks);
    if (lacks) {
      form.current?.querySelector("input")?.focus();
      return;
    }
    say(
      {
        act: "decision",
        outcome: picked,
        ...(because && { reason: because }),
        ...(chain.length > 0 && { chain }),
        ...(old && { supersedes: old.id }),
      },
      clear,
    );
  };
  return {
    old,
    picked,
    setChoice,
    reason,
    setReason,
    chain: chainOf(kept),
    setChain: (c: ReturnType<typeof chainOf>) => setKept(JSON.stringify(c)),
    form,
    decide,
    may: picked !== "" && !unchanged,
    unchanged,
    lacking: asked && lacks,
  };
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
        title={`${c.text}${c.default ? ", our way" : ""}${c.likely ? `, ${Math.round(100 * c.likely)} %` : ""}`}
        text={c.holds ? "The rebuild waits here until this is decided anew." : c.why}
      />
    ))}
  </Choices>
);

function Reason({ said, word }: { said: ReturnType<typeof useDecision>; word: string }) {
  return (
    <form
      ref={said.form}
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
        error={said.lacking ? "This choice wants a reason." : undefined}
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
        {word}
      </Button>
    </form>
  );
}
