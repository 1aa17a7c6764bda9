import { useState } from "react";
import { useGauges } from "../../data/shop";
import { useLeads } from "../../data/session";
import type { Instrument } from "../../model/types";
import { Button } from "../../parts/Button";
import { Listed, Row } from "../../parts/Listed";
import { Page, Section } from "../../parts/Page";
import { GaugeForm, text } from "./GaugeForm";

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
          <b className="font-semibold">Steps need gauges you have not entered:</b> {missing.join(", ")}. Until
          then their readings have no gauge error.
        </p>
      )}
      <Listed
        title="Gauges"
        hidden
        list={page.data?.gauges}
        error={page.error}
        keyOf={(g) => g.id}
        none="No gauges yet. Add the first one below."
        row={(g) => (
          <>
            <Row
              title={<span className={g.ended ? "line-through text-quiet" : "text-line"}>{g.name}</span>}
              says={`${g.kind}, ${text(g.resolution)}${g.mpe ? `, ± ${text(g.mpe)}` : ""}${g.learned ? `; repeats within ${text(g.learned)}, learned from ${g.repeats} readings` : ""}`}
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
        <Section title="Add a gauge">
          <GaugeForm kinds={kinds} kind={missing[0] ?? kinds[0] ?? ""} />
        </Section>
      )}
    </Page>
  );
}

function Due({ gauge: g }: { gauge: Instrument }) {
  if (g.ended) return <span className="text-quiet">out of use</span>;
  if (g.overdue) return <b className="font-semibold text-undecided">calibration overdue since {g.due}</b>;
  return <span className="text-quiet">{g.due ? `calibration due ${g.due}` : "no calibration date"}</span>;
}
