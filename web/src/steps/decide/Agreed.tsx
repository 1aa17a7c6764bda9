import { money } from "../../model/costs";
import { moment } from "../../model/moment";
import { may } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

/** What the way comes to, and the customer's yes: who, when, up to which sum. A change of plan asks again. */
export function Agreed({ view, say, way }: PropsOf<"decide"> & { way: string }) {
  const estimate = view.estimates?.find((e) => e.way === way);
  const yes = view.agreed;
  const [name, setName] = useKept(`agreed.${view.step.id}.name`, yes?.name ?? "");
  const usual = estimate ? money(estimate.ask) : "";
  const [sum, setSum] = useKept(`agreed.${view.step.id}.sum`, usual);
  if (!yes && !may(view, "agreed")) return null;
  const said = name.trim() !== "" && sum.trim() !== "";
  return (
    <section aria-label="The customer's yes" className="border border-ink mt-3.5">
      {estimate && (
        <p className="px-4 py-3 border-b border-hair">
          Parts <Money n={estimate.parts} />
          {estimate.fluids > 0 && (
            <>
              , fluids <Money n={estimate.fluids} />
            </>
          )}
          {estimate.outside > 0 && (
            <>
              , work sent out <Money n={estimate.outside} />
            </>
          )}
          , work {estimate.hours} h at {estimate.rate}: <Money n={estimate.work} />. With what may go wrong
          half of such bills stay below <Money n={estimate.half} />, nine in ten below{" "}
          <Money n={estimate.nine} />.
        </p>
      )}
      {yes && (
        <p className={`px-4 py-2.5 ${yes.stale ? "text-undecided" : ""}`} role="status">
          <b className="font-semibold">
            {yes.name} said yes, up to <span className="font-mono font-medium">{yes.sum}</span>
          </b>
          , {moment(yes.at)}, to {yes.by}
          {yes.stale && ". The plan has changed since: ask again"}.
        </p>
      )}
      {may(view, "agreed") && (
        <form
          className="p-4 flex flex-wrap gap-3 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            if (!said) return;
            say({ act: "agreed", name, sum, ...(yes && { supersedes: yes.entry }) }, () => {
              setName("");
              setSum(usual);
            });
          }}
        >
          <Field label="Who said yes" value={name} onValue={setName} className="grow basis-[200px]" />
          <Field
            label="Up to"
            value={sum}
            onValue={setSum}
            inputMode="decimal"
            numeric
            className="basis-[140px]"
          />
          <Button type="submit" name="agreed" disabled={!said}>
            {yes ? "Write down the new yes" : "Write down the yes"}
          </Button>
        </form>
      )}
    </section>
  );
}

function Money({ n }: { n: number }) {
  return <span className="font-mono font-medium">{Math.round(n)}</span>;
}
