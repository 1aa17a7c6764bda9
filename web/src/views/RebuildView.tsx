import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useMemo } from "react";
import { usePlan, useSheet, useStep } from "../data/rebuilds";
import { useEvents } from "../parts/saying";
import { Bar } from "../parts/Bar";
import { Fault } from "../parts/Fault";
import { useTitle } from "../parts/focus";
import { KeptFor } from "../parts/kept";
import { weekday } from "../model/moment";
import type { PlanCopy, Rebuild } from "../model/types";
import { broughtFor, ownerOf } from "../model/words";
import { useKey } from "../parts/keys";
import { Rule } from "../parts/Rule";
import { StepBench } from "../steps/StepBench";

const inHead = "min-h-11 min-w-11 flex items-center justify-center";

/** A rebuild at work: the rule, the sheet of the current step, the margin. */
export function RebuildView() {
  const { id = "", step = "" } = useParams({ strict: false });
  const sheet = useSheet(id);
  const plan = usePlan(sheet.data?.rebuild.plan_hash);
  useEvents(id, ["rebuild", id]);
  const view = useStep(id, step);
  const { to, title } = useWalk(id, step, plan.data);
  const { rebuild: r, steps } = sheet.data ?? {};
  useWhereItStands(id, step, r?.place.step);
  useTitle(titleOf(r, title));
  return (
    <div className="min-h-screen flex flex-col">
      <Bar>{r && <Head rebuild={r} />}</Bar>
      <Fault error={sheet.error ?? view.error} />
      <div className="grow grid grid-cols-[212px_minmax(0,1fr)_320px] max-[1100px]:grid-cols-[80px_minmax(0,1fr)] max-[1100px]:grid-rows-[auto_1fr]">
        {steps && plan.data && <Rule plan={plan.data} steps={steps} rebuild={id} current={step} />}
        {view.data && plan.data && (
          <KeptFor scope={id}>
            <StepBench
              key={`${id} ${step}`}
              rebuild={id}
              view={view.data}
              plan={plan.data}
              next={nextOpen(steps, step)}
              onGo={to}
            />
          </KeptFor>
        )}
      </div>
    </div>
  );
}

const titleOf = (r: Rebuild | undefined, step: string | undefined) =>
  r ? `${step ?? r.unit.name}, ${r.number} ${r.vehicle.name}` : "";

/** From step to step by keys, and to the record. */
function useWalk(id: string, step: string, plan: PlanCopy | undefined) {
  const go = useNavigate();
  const steps = useMemo(() => plan?.route.stations.flatMap((s) => s.steps) ?? [], [plan]);
  const at = steps.findIndex((s) => s.id === step);
  const to = (target: string | undefined) =>
    target && void go({ to: "/rebuilds/$id/$step", params: { id, step: target } });
  useKey("next", "next step", () => to(steps[at + 1]?.id), at >= 0 && at < steps.length - 1);
  useKey("before", "previous step", () => to(steps[at - 1]?.id), at > 0);
  useKey("record", "open the record", () => void go({ to: "/records/$id", params: { id } }));
  return { to, title: steps[at]?.title };
}

/**
 * Opened without a step: begin where the rebuild stands, and stay there when it moves on, so that what was just
 * done can be seen.
 */
function useWhereItStands(id: string, step: string, place: string | undefined) {
  const go = useNavigate();
  useEffect(() => {
    if (step === "" && place)
      void go({ to: "/rebuilds/$id/$step", params: { id, step: place }, replace: true });
  }, [step, place, id, go]);
}

/** Which rebuild it is, whose, and its other pages. */
const Head = ({ rebuild: r }: { rebuild: Rebuild }) => (
  <>
    <span className="font-mono font-medium text-head">{r.number}</span>
    <div className="min-w-0 grow basis-0 max-[700px]:basis-full">
      <h1 className="text-head leading-tight truncate" title={`${r.unit.name}, ${r.vehicle.name}`}>
        {r.unit.name}, {r.vehicle.name}
      </h1>
      <p className="text-quiet text-small leading-tight truncate" title={broughtFor(r)}>
        {r.whose?.customer ? (
          <Link to="/customers/$id" params={{ id: r.whose.customer }}>
            {ownerOf(r)}
          </Link>
        ) : (
          ownerOf(r)
        )}
        , promised {weekday(r.place.promised)} {r.place.promised}. “{r.complaint}”
        {r.told && ` Told: ${r.told}`}
      </p>
    </div>
    <Link to="/units/$id" params={{ id: r.unit.id }} className={inHead}>
      Unit
    </Link>
    <Link to="/trays/$id" params={{ id: r.id }} className={inHead}>
      Trays
    </Link>
    <Link to="/records/$id" params={{ id: r.id }} className={`${inHead} gap-1.5`}>
      Record <kbd>R</kbd>
    </Link>
  </>
);

/** The step to go on with once this one is done. */
function nextOpen(steps: { id: string; status: string }[] | undefined, current: string): string | undefined {
  return steps?.find((s) => s.id !== current && s.status === "open")?.id;
}
