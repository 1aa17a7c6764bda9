import { useState } from "react";
import { useGauges, useKeepGauge } from "../data/shop";
import { useLeads } from "../data/session";
import type { Instrument } from "../model/types";
import { Button } from "../parts/Button";
import { Form, useForm } from "../parts/Form";
import { Listed, Row } from "../parts/Listed";
import { Page, Section } from "../parts/Page";
import { Picked } from "../parts/Picked";

const text = (q: { value: number; unit: string } | null | undefined) => (q ? `${q.value} ${q.unit}` : "");

/** What the shop reads with: its division, its permitted error, when its calibration is due. */
export function GaugesView() {
  const leads = useLeads();
  const page = useGauges();
  const [at, setAt] = useState<string | undefined>();
  const kinds = page.data?.kinds ?? [];
  const missing = kinds.filter((k) => !page.data?.gauges.some((g) => g.kind === k && !g.ended));
  return (
    <Page title="Gauges" className="flex flex-col gap-5">
      {missing.length > 0 && (
        <p role="status" className="bg-sheet border border-undecided border-l-6 px-4 py-3">
          <b className="font-semibold">Steps ask for a kind that nobody has entered:</b> {missing.join(", ")}.
          Until then readings of it stand without an error.
        </p>
      )}
      <Listed
        title="Gauges"
        hidden
        list={page.data?.gauges}
        error={page.error}
        keyOf={(g) => g.id}
        none="None has been entered yet."
        row={(g) => (
          <>
            <Row
              title={<span className={g.ended ? "line-through text-quiet" : "text-line"}>{g.name}</span>}
              says={`${g.kind}, ${text(g.resolution)}${g.mpe ? `, ± ${text(g.mpe)}` : ""}`}
            >
              <Due gauge={g} />
              {leads && (
                <Button look="quiet" onClick={() => setAt(at === g.id ? undefined : g.id)}>
                  Correct<span className="sr-only"> {g.name}</span>
                </Button>
              )}
            </Row>
            {at === g.id && <GaugeForm was={g} kinds={kinds} onDone={() => setAt(undefined)} />}
          </>
        )}
      />
      {leads && page.data && (
        <Section title="One more">
          <GaugeForm kinds={kinds} kind={missing[0] ?? kinds[0] ?? ""} />
        </Section>
      )}
    </Page>
  );
}

function Due({ gauge: g }: { gauge: Instrument }) {
  if (g.ended) return <span className="text-quiet">read with no more</span>;
  if (g.overdue) return <b className="font-semibold text-undecided">calibration overdue since {g.due}</b>;
  return <span className="text-quiet">{g.due ? `calibration due ${g.due}` : "no calibration day"}</span>;
}

type GaugeProps = { was?: Instrument; kind?: string; kinds: readonly string[]; onDone?: () => void };

const saidOf = (g: Instrument | undefined, kind: string) => ({
  kind: g?.kind ?? kind,
  name: g?.name ?? "",
  resolution: text(g?.resolution),
  mpe: text(g?.mpe),
  repeatability: text(g?.repeatability),
  due: g?.due ?? "",
});

function GaugeForm({ was, kind = "", kinds, onDone }: GaugeProps) {
  const keep = useKeepGauge();
  const { said, put, line, clear } = useForm(saidOf(was, kind), keep);
  const { mpe, repeatability, due, ...must } = said;
  const kept = {
    ...must,
    ...(was && { id: was.id }),
    ...(mpe && { mpe }),
    ...(repeatability && { repeatability }),
    ...(due && { due }),
  };
  const done = () => (onDone ? onDone() : clear());
  const ways = onDone && (
    <>
      {!was?.ended && (
        <Button
          disabled={keep.isPending}
          onClick={() => keep.mutate({ ...kept, ended: true }, { onSuccess: done })}
        >
          Read with no more
        </Button>
      )}
      <Button onClick={onDone}>Leave it</Button>
    </>
  );
  return (
    <Form
      label={was?.name ?? "A new gauge"}
      write={keep}
      value={kept}
      onTaken={done}
      className="p-5 grid grid-cols-3 max-[820px]:grid-cols-1 gap-3 items-end"
      go="Keep"
      beside={ways}
    >
      {line("name", "Name, as it stands in the record", { placeholder: "Dial indicator no. 3" })}
      <Picked label="Kind" value={said.kind} onValue={(v) => put("kind", v)} of={[...kinds, said.kind]} />
      {line("due", "Calibration due", { type: "date" })}
      {line("resolution", "One division", { placeholder: "0.01 mm" })}
      {line("mpe", "Permitted error ±", { placeholder: "0.012 mm" })}
      {line("repeatability", "Spread when read again", { placeholder: "0.004 mm" })}
    </Form>
  );
}
