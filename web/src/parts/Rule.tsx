import { Link } from "@tanstack/react-router";
import type { PlanCopy, StepStatus } from "../model/types";

type Props = { plan: PlanCopy; steps: StepStatus[]; rebuild: string; current: string };

const marks: Record<string, string> = {
  done: "bg-ink",
  open: "bg-ink",
  held: "bg-undecided",
  locked: "bg-hair",
};

/** The route as a steel rule: long graduations are stations, short ones steps; the filled edge is progress. */
export function Rule({ plan, steps, rebuild, current }: Props) {
  const status = new Map(steps.map((s) => [s.id, s]));
  const done = steps.filter((s) => s.status === "done").length;
  const currentStation = plan.route.stations.find((st) => st.steps.some((s) => s.id === current))?.id;
  return (
    <nav
      aria-label="Route"
      className="no-print relative pl-[26px] pr-2 pt-4 pb-6 max-[1100px]:pl-3 max-[1100px]:pr-0 max-[1100px]:row-span-2"
    >
      <ol className="relative border-l border-ink">
        <li aria-hidden="true" className="absolute -left-[8px] top-0 bottom-0 w-[6px]">
          <div className="bg-blue" style={{ height: `${(100 * done) / Math.max(1, steps.length)}%` }} />
        </li>
        {plan.route.stations.map((st) => (
          <li key={st.id}>
            <StationMark station={st} status={status} rebuild={rebuild} here={st.id === currentStation} />
            {st.id === currentStation ? (
              <ol>
                {st.steps.map((s) => (
                  <StepMark
                    key={s.id}
                    step={s}
                    status={status.get(s.id)?.status ?? "locked"}
                    rebuild={rebuild}
                    now={s.id === current}
                  />
                ))}
              </ol>
            ) : (
              <div aria-hidden="true">
                {st.steps.map((s) => (
                  <div key={s.id} className="h-[5px] flex items-center">
                    <span className={`w-[13px] h-[1.2px] ${marks[status.get(s.id)?.status ?? "locked"]}`} />
                  </div>
                ))}
              </div>
            )}
          </li>
        ))}
      </ol>
    </nav>
  );
}

type Station = PlanCopy["route"]["stations"][number];
type StationProps = {
  station: Station;
  status: ReadonlyMap<string, StepStatus>;
  rebuild: string;
  here: boolean;
};

/** A long graduation: the station with what of it is done; it leads to the first step that is not. */
function StationMark({ station: st, status, rebuild, here }: StationProps) {
  const finished = st.steps.filter((s) => status.get(s.id)?.status === "done").length;
  const target = st.steps.find((s) => status.get(s.id)?.status !== "done") ?? st.steps[0];
  return (
    target && (
      <Link
        to="/rebuilds/$id/$step"
        params={{ id: rebuild, step: target.id }}
        title={st.title}
        className="no-underline text-ink flex items-center gap-2 max-[1100px]:gap-1 min-h-11 hover:bg-tint/60"
      >
        <span className="w-[32px] max-[1100px]:w-[10px] h-[1.4px] bg-ink shrink-0" />
        <span
          className={`grow min-w-0 text-body max-[1100px]:text-tiny max-[1100px]:leading-[1.15] ${here ? "font-semibold" : ""}`}
        >
          {st.title}
          <span className="hidden max-[1100px]:block font-mono font-normal text-quiet">
            {finished}/{st.steps.length}
          </span>
        </span>
        <span className="font-mono text-tiny text-quiet max-[1100px]:hidden">
          {finished}/{st.steps.length}
        </span>
      </Link>
    )
  );
}

type StepProps = { step: Station["steps"][number]; status: string; rebuild: string; now: boolean };

/** A short graduation: a step of the station where the hand is. */
const StepMark = ({ step: s, status, rebuild, now }: StepProps) => (
  <li>
    <Link
      to="/rebuilds/$id/$step"
      params={{ id: rebuild, step: s.id }}
      aria-current={now ? "step" : undefined}
      className={`no-underline flex items-center gap-2 min-h-11 py-[3px] text-small leading-tight hover:bg-tint/60 ${now ? "text-blue font-semibold" : "text-ink"}`}
    >
      <span className="w-[32px] max-[1100px]:w-[20px] shrink-0">
        <span
          className={`block ${now ? "w-[24px] max-[1100px]:w-[18px] h-[3px] bg-blue" : `w-[13px] h-[1.4px] ${marks[status]}`}`}
        />
      </span>
      <span className="grow max-[1100px]:sr-only">{s.title}</span>
      <StatusWord status={status} />
    </Link>
  </li>
);

/** A tick, a bar or a gate: the status is a shape before it is a colour. */
function StatusWord({ status }: { status: string }) {
  const shapes: Record<string, string> = {
    done: "M2 7l3 3 6-7",
    held: "M3 2v9M9 2v9",
    locked: "M2 10h9M3 10V5h7v5",
  };
  const path = shapes[status];
  return (
    <svg
      width="13"
      height="13"
      viewBox="0 0 13 13"
      role="img"
      aria-label={status}
      className={`shrink-0 ${status === "held" ? "text-undecided" : "text-quiet"}`}
    >
      {path && <path d={path} fill="none" stroke="currentColor" strokeWidth="1.8" />}
    </svg>
  );
}
