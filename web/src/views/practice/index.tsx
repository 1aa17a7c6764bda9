import { useState } from "react";
import { Link } from "@tanstack/react-router";
import { type PracticeRun, type PracticeTask, usePractice } from "../../data/practice";
import { useLeads } from "../../data/session";
import { anotherSeed, curves } from "../../model/practice";
import { moment } from "../../model/moment";
import { several } from "../../model/several";
import { Listed, Row } from "../../parts/Listed";
import { Page, Section } from "../../parts/Page";
import { Curve } from "./Curve";
import { SetPractice } from "./SetPractice";

const kinds = { axle: "Axle", housing: "Bell housing", fault: "Driveline with a fault" } as const;

/** What there is to practise on, what a lead has set, and how everyone's runs went. */
export function PracticeView() {
  const page = usePractice();
  const leads = useLeads();
  const [seeds] = useState(() => ({ axle: anotherSeed(), housing: anotherSeed(), fault: anotherSeed() }));
  const runs = page.data?.runs ?? [];
  return (
    <Page title="Practice" className="flex flex-col gap-5">
      <nav aria-label="Practise on" className="flex flex-wrap gap-3">
        {(["axle", "housing", "fault"] as const).map((kind) => (
          <Begin key={kind} kind={kind} level="clean" seed={seeds[kind]} says={kinds[kind]} />
        ))}
        <p className="basis-full text-quiet text-note">
          The truth is known to the program alone, and told at the end. Nothing of it is on any record.
        </p>
      </nav>
      <Listed
        title="Set by a lead"
        list={page.data?.tasks}
        error={page.error}
        keyOf={(t) => t.id}
        none="Nothing is set."
        row={(t) => <Task task={t} done={runs.filter((r) => r.task === t.id)} />}
      >
        {leads && <SetPractice />}
      </Listed>
      <Section title="How it goes">
        <div className="p-5 grid grid-cols-2 max-[820px]:grid-cols-1 gap-5">
          {runs.length === 0 && <p className="text-quiet">No practice was finished yet.</p>}
          {curves(runs).map((c) => (
            <Curve key={`${c.name} ${c.kind}`} name={c.name} kind={kinds[c.kind]} runs={c.runs} />
          ))}
        </div>
      </Section>
    </Page>
  );
}

type BeginProps = Pick<PracticeRun, "kind" | "level" | "seed"> & { says: string };

/** A fresh one on its bench. */
const Begin = ({ kind, level, seed, says }: BeginProps) => (
  <Link
    to="/bench/$name"
    params={{ name: "practice" }}
    search={{ in: { kind, level, seed } }}
    className="min-h-11 px-4 flex items-center border border-ink bg-sheet text-ink no-underline"
  >
    {says}
  </Link>
);

const Task = ({ task: t, done }: { task: PracticeTask; done: PracticeRun[] }) => (
  <Row
    title={`${kinds[t.kind]}, ${t.level === "trap" ? "with a trap" : t.level}${t.for ? `, for ${t.for}` : ""}`}
    says={[t.note, `set by ${t.by}, ${moment(t.at)}`, doneBy(done)].filter(Boolean).join("; ")}
  >
    <Begin kind={t.kind} level={t.level} seed={t.seed} says="Begin" />
  </Row>
);

const doneBy = (runs: PracticeRun[]) =>
  runs.length > 0 &&
  `done by ${[...new Set(runs.map((r) => r.name))].join(", ")} in ${several(runs.length, "run")}`;
