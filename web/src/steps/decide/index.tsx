import { useRef, useState } from "react";
import { chainOf } from "../../model/chain";
import { resultOf } from "../../model/results";
import { liveAt } from "../../model/types";
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
  const { view, plan, say } = p;
  const old = liveAt(view.entries, "decision");
  const said = old?.body;
  const [choice, setChoice] = useKept(`choice.${view.step.id}`);
  const [reason, setReason] = useKept(`reason.${view.step.id}`);
  const was = JSON.stringify(view.chain ?? []);
  const [kept, setChain] = useKept(`chain.${view.step.id}`, was);
  const chain = chainOf(kept).map(({ how, ...l }) => ({ ...l, ...(how?.trim() && { how: how.trim() }) }));
  const usual = view.choices.find((c) => c.default)?.id ?? "";
  const picked = choice || said?.outcome || usual;
  // The reason stands as long as the choice does.
  const because = reason.trim() || (picked === said?.outcome ? (said.reason ?? "") : "");
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
      () => {
        setChoice("");
        setReason("");
        setChain(was);
      },
    );
  };
  const weighed = view.weighed?.find((w) => w.calc === "decide");
  const unchanged = old !== undefined && choice === "" && reason === "" && JSON.stringify(chain) === was;
  const handover = plan.route.stations.flatMap((s) => s.steps).find((s) => s.id === view.step.id)?.handover;
  useKey("act", "decide", decide, picked !== "" && !unchanged);
  return (
    <>
      {view.parts && view.parts.length > 0 && (
        <Chain parts={view.parts} chain={chainOf(kept)} onChain={(c) => setChain(JSON.stringify(c))} />
      )}
      <Points {...p} />
      <div className="border border-ink mt-3.5">
        <Choices
          label={view.step.title}
          chosen={picked}
          onPick={setChoice}
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
        <form
          ref={form}
          className="p-4 border-t border-ink flex flex-wrap gap-3 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            if (picked !== "" && !unchanged) decide();
          }}
        >
          <Field
            label="Reason"
            value={reason}
            onValue={setReason}
            error={asked && lacks ? "This choice wants a reason." : undefined}
            className="grow basis-[260px]"
          />
          <Button
            look="go"
            hint="F"
            type="submit"
            name="decision"
            disabled={picked === "" || unchanged}
            why={unchanged ? "It is decided so already." : "Choose one first."}
          >
            {old ? "Decide anew" : view.step.role === "lead" ? "Sign" : "Decide"}
          </Button>
        </form>
        {old && (
          <p className="px-4 pb-3 text-quiet">
            Decided by {old.by.name}: {view.choices.find((c) => c.id === said?.outcome)?.text}
            {said?.reason && `, ${said.reason}`}
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
      <Agreed key={said?.outcome} {...p} way={said?.outcome ?? picked} />
      {weighed && (
        <MarginSlot>
          <PromiseDay {...p} way={picked || (resultOf("decide", weighed.result)?.choice ?? "")} />
        </MarginSlot>
      )}
    </>
  );
}
