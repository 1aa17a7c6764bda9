import { type ReactNode, useRef, useState } from "react";
import { type Draft, liveAt, may, type PlanCopy, type StepView } from "../model/types";
import { Button } from "../parts/Button";
import { useAhead, useSaying } from "../parts/saying";
import { Fault } from "../parts/Fault";
import { useFocusWithin } from "../parts/focus";
import { useKept } from "../parts/kept";
import { Margin } from "../parts/MarginSlot";
import { useSpent } from "../parts/spent";
import { Cautions } from "./Cautions";
import { FiguresAsked, FiguresOffered, FiguresSaid, NewerSheet } from "./Figures";
import { Foot } from "./Foot";
import { History } from "./History";
import { screens } from "./kinds";
import { standsWrong, Wants } from "./Wants";
import { Weighed } from "./Weighed";
import type { StepProps } from "./props";
import { several } from "../model/several";
import { begun } from "../model/words";

/** On a narrow screen the margin stands below the sheet, beside the rule. */
const narrowSheet = "max-[1100px]:border-r-0 max-[1100px]:px-4";
const belowNarrow = "max-[1100px]:col-start-2 max-[1100px]:border-l max-[1100px]:border-t max-[1100px]:px-4";

type Props = {
  rebuild: string;
  view: StepView;
  plan: PlanCopy;
  next: string | undefined;
  onGo: (step: string | undefined) => void;
};

export function StepBench({ rebuild, view: kept, plan, next, onGo }: Props) {
  const view = useAhead(rebuild, kept);
  const { say: write, fault, refused } = useSaying(rebuild, view.step.id, view.step.title);
  const spent = useSpent();
  const say: StepProps["say"] = (d, taken) => {
    write(timed(d, spent.seconds()), taken);
    spent.again();
  };
  const p: StepProps = {
    rebuild,
    view,
    plan,
    say,
    fault,
    refused,
  };
  return (
    <StepSheet {...p} foot={<Foot {...p} next={next} nextTitle={titleOf(plan, next)} onGo={onGo} />}>
      <Before {...p} />
      <Work {...p} />
      <FiguresSaid {...p} />
      <NewerSheet {...p} />
      {view.weighed?.map((w) => (
        <Weighed key={w.calc} {...p} weighed={w} />
      ))}
    </StepSheet>
  );
}

const waitingIn = (view: StepView) => view.cautions.filter((c) => c.grave && !c.by);

/** What comes before the work: a closed gate, that it was left away, cautions to read first. */
function Before(p: StepProps) {
  const left = liveAt(p.view.entries, "skip");
  return (
    <>
      {p.view.status === "locked" && <Gate {...p} />}
      {left && <NotNeeded view={p.view} entry={left} say={p.say} />}
      {!left && <Wants view={p.view} say={p.say} />}
      {p.view.status !== "locked" &&
        !left &&
        p.view.acts.length > 0 &&
        rests(p.view) &&
        !may(p.view, "stands") && <Cautions cautions={waitingIn(p.view)} say={p.say} />}
    </>
  );
}

/** The work rests behind a gate, or left away, until all is as it has to be and the cautions are read. */
const rests = (view: StepView) =>
  view.status === "locked" ||
  standsWrong(view) ||
  liveAt(view.entries, "skip") !== undefined ||
  (waitingIn(view).length > 0 && !view.step.hazards);

/** The screen of the step's kind, with the figures it asks for before and offers after. */
function Work(p: StepProps) {
  const { view } = p;
  const asks = view.figures?.some((f) => !f.entry && !f.may) === true;
  const open = view.acts.length > 0 && !rests(view);
  const Screen = screens[view.kind];
  return (
    <>
      {open && asks && <FiguresAsked {...p} />}
      <fieldset
        className={`min-w-0 ${rests(view) || asks ? "opacity-60" : ""}`}
        disabled={!open || asks}
        aria-label={view.step.title}
      >
        {Screen && <Screen {...p} />}
      </fieldset>
      {open && !asks && <FiguresOffered {...p} />}
    </>
  );
}

/** A draft with the seconds somebody was here before it; the shop's cost sheet adds them up. */
const timed = (d: Draft, spent: number): Draft => (spent > 0 ? { ...d, spent } : d);

function titleOf(plan: PlanCopy, id: string | undefined) {
  return plan.route.stations.flatMap((s) => s.steps).find((s) => s.id === id)?.title;
}

/** Sheet and margin of a step. Kinds put their meaning into the margin with MarginSlot. */
function StepSheet({
  view,
  children,
  foot,
  fault,
  refused,
}: StepProps & { children: ReactNode; foot: ReactNode }) {
  const [margin, setMargin] = useState<HTMLElement | null>(null);
  const sheet = useRef<HTMLElement>(null);
  useFocusWithin(sheet);
  return (
    <Margin value={margin}>
      <main
        ref={sheet}
        id="main"
        data-step={view.step.id}
        tabIndex={-1}
        className={`bg-sheet border-x border-ink px-[26px] py-5 min-w-0 ${narrowSheet}`}
      >
        <h2 className="text-title leading-tight">{view.step.title}</h2>
        <p className="text-quiet text-line mt-1 max-w-[640px]">
          {view.step.say}
          {view.step.minutes && ` About ${several(view.step.minutes, "minute")}.`}
        </p>
        {children}
        <Announced view={view} />
        {/* What is wrong with a value stands at its field. */}
        {refused?.value === undefined && <Fault error={fault} />}
        <History view={view} />
      </main>
      <aside aria-label="What it means" className={`px-6 py-5 flex flex-col gap-4 border-ink ${belowNarrow}`}>
        <div ref={setMargin} className="peer empty:hidden" />
        {foot}
      </aside>
    </Margin>
  );
}

/** Says for a screen reader what an entry came to: its verdict, and that the step is done. */
function Announced({ view }: { view: StepView }) {
  const last = view.entries.findLast((e) => !e.superseded_by && e.act !== "note" && e.act !== "found");
  const needs = view.needs ?? "";
  const told = last?.verdict && last.verdict !== "none" && !needs.startsWith(last.verdict);
  const verdict = last && (told ? `${last.says}: ${last.verdict}.` : last.verdict ? `${last.says}.` : "");
  return (
    <p role="status" className="sr-only">
      {verdict} {view.status === "done" ? "This step is done." : begun(needs)}
    </p>
  );
}

type NotNeededProps = Pick<StepProps, "view" | "say"> & { entry: StepView["entries"][number] };

/** It was left away; whoever does it all the same takes that back first. */
function NotNeeded({ view, entry, say }: NotNeededProps) {
  return (
    <section
      aria-label="Not needed"
      className="border border-ink border-l-6 mt-3.5 p-4 bg-paper flex flex-wrap gap-3 items-center"
    >
      <p className="grow basis-[240px] text-line">
        <b className="font-semibold">Not needed:</b> {entry.body.reason}{" "}
        <span className="text-quiet text-note">{entry.by.name}</span>
      </p>
      {may(view, "strike") && (
        <Button
          name="strike"
          value={entry.id}
          onClick={() => say({ act: "strike", supersedes: entry.id, reason: "it is needed after all" })}
        >
          Needed after all
        </Button>
      )}
    </section>
  );
}

/** A closed gate: what comes first, or a reason to open it all the same. */
function Gate({ view, say }: StepProps) {
  const [reason, setReason] = useKept(`gate.${view.step.id}`);
  return (
    <section aria-label="Locked step" className="border border-ink border-l-6 mt-3.5 p-4 bg-paper">
      <h3 className="text-head">Do first: {view.gate.join(", ")}</h3>
      <p className="text-quiet mb-2">This step unlocks when that is done.</p>
      {may(view, "override") && (
        <form
          className="flex gap-2 items-end flex-wrap"
          onSubmit={(e) => {
            e.preventDefault();
            say({ act: "override", reason }, () => setReason(""));
          }}
        >
          <label className="grow text-small text-quiet">
            Reason to start early
            <input
              value={reason}
              onChange={(e) => setReason(e.target.value)}
              className="block w-full mt-1 min-h-11 border border-ink bg-field px-3 text-ink text-body"
            />
          </label>
          <Button type="submit" name="override" disabled={reason.trim() === ""}>
            Start early
          </Button>
        </form>
      )}
    </section>
  );
}
