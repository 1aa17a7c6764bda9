import { money, sum } from "../../model/costs";
import { moment } from "../../model/moment";
import { may } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

type Props = PropsOf<"decide"> & { way: string };
type Estimate = NonNullable<Props["view"]["estimates"]>[number];

/** What the way comes to, and the customer's yes: who, when, up to which sum. A change of plan asks again. */
export function Agreed(p: Props) {
  const { view, way } = p;
  const estimate = view.estimates?.find((e) => e.way === way);
  const yes = view.agreed;
  const mayAsk = may(view, "agreed");
  if (!yes && !mayAsk) return null;
  return (
    <section aria-label="Customer's approval" className="border border-ink mt-3.5">
      {estimate && <Estimated {...estimate} />}
      {yes && (
        <p className={`px-4 py-2.5 ${yes.stale ? "text-undecided" : ""}`} role="status">
          <b className="font-semibold">
            {yes.name} approved up to <span className="font-mono font-medium">{money(yes.sum)}</span>
          </b>
          , {moment(yes.at)}, told to {yes.by}
          {yes.stale && ". The plan has changed since. Ask again"}.
        </p>
      )}
      {mayAsk && <Yes {...p} yes={yes} usual={estimate ? sum(estimate.ask) : ""} />}
    </section>
  );
}

/** What the bill is made of, and what it may come to. */
const Estimated = (e: Estimate) => (
  <p className="px-4 py-3 border-b border-hair">
    Parts <Money n={e.parts} />
    {e.fluids > 0 && (
      <>
        , fluids <Money n={e.fluids} />
      </>
    )}
    {e.outside > 0 && (
      <>
        , work sent out <Money n={e.outside} />
      </>
    )}
    , work {e.hours} h at {money(e.rate)}: <Money n={e.work} />. Allowing for what may go wrong: half of such
    jobs cost less than <Money n={e.half} />, nine in ten less than <Money n={e.nine} />.
  </p>
);

/** Who says yes to how much, written down. */
function Yes({ view, say, yes, usual }: Props & { yes: Props["view"]["agreed"]; usual: string }) {
  const [name, setName] = useKept(`agreed.${view.step.id}.name`, yes?.name ?? "");
  const [sum, setSum] = useKept(`agreed.${view.step.id}.sum`, usual);
  const said = name.trim() !== "" && sum.trim() !== "";
  const keep = () =>
    say({ act: "agreed", name, sum, ...(yes && { supersedes: yes.entry }) }, () => {
      setName("");
      setSum(usual);
    });
  return (
    <form
      className="p-4 flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (said) keep();
      }}
    >
      <Field label="Approved by" value={name} onValue={setName} className="grow basis-[200px]" />
      <Field
        label="Up to"
        value={sum}
        onValue={setSum}
        inputMode="decimal"
        numeric
        className="basis-[140px]"
      />
      <Button type="submit" name="agreed" disabled={!said}>
        {yes ? "Record new approval" : "Record approval"}
      </Button>
    </form>
  );
}

function Money({ n }: { n: number }) {
  return <span className="font-mono font-medium">{money(Math.round(n))}</span>;
}
