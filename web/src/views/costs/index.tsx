import { Link, useParams } from "@tanstack/react-router";
import { useCosts } from "../../data/rebuilds";
import { bySurprise, type Cost, money, sayMinutes } from "../../model/costs";
import { moment } from "../../model/moment";
import { scale } from "../../model/ways";
import { Bar } from "../../parts/Bar";
import { Fault } from "../../parts/Fault";
import { Frame } from "../../parts/Frame";
import { useTitle } from "../../parts/focus";
import { Verdict } from "../../parts/Verdict";
import { several } from "../../model/several";

const columns = "grid grid-cols-[minmax(0,1fr)_320px] max-[1000px]:grid-cols-1";
const bar = "grid grid-cols-[minmax(0,200px)_minmax(80px,1fr)_auto]";

/** What a rebuild has cost so far, against its estimate and what the customer agreed to; for leads. */
export function CostsView() {
  const { id = "" } = useParams({ strict: false });
  const page = useCosts(id);
  const c = page.data;
  useTitle(c ? `Costs of ${c.rebuild.number}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">
          Costs{c && <span className="font-mono font-medium pl-3">{c.rebuild.number}</span>}
        </h1>
        {c && (
          <Link to="/rebuilds/$id" params={{ id }} className="min-h-11 flex items-center">
            {c.rebuild.unit.name}
          </Link>
        )}
      </Bar>
      <main tabIndex={-1} className={`max-w-[1280px] mx-auto p-5 gap-6 items-start ${columns}`}>
        <Fault error={page.error} />
        {c && (
          <div className="flex flex-col gap-5 min-w-0">
            <Frame label="Estimated and so far">
              <Bars cost={c} />
            </Frame>
            <Times cost={c} />
          </div>
        )}
        {c && <Meaning cost={c} />}
      </main>
    </div>
  );
}

function Meaning({ cost: c }: { cost: Cost }) {
  const sum = c.lines.find((l) => l.id === "sum");
  return (
    <aside aria-label="What it means" className="flex flex-col gap-3">
      <p className="text-quiet text-small">So far</p>
      <p className="font-mono font-medium text-[40px] leading-none">{money(sum?.so_far ?? 0)}</p>
      <Verdict
        verdict={c.verdict}
        says={c.over > 0 ? "Over approval" : c.verdict === "in" ? "Within estimate" : "Check it"}
      />
      <p>{c.says}</p>
      {c.way && (
        <p className="text-quiet">
          Chosen: {c.way}, at {money(c.rate)} an hour.
        </p>
      )}
      {c.agreed && (
        <p className={c.agreed.stale ? "text-undecided" : "text-quiet"}>
          {c.agreed.name} approved up to {money(c.agreed.sum)}, {moment(c.agreed.at)}
          {c.agreed.stale && "; the plan has changed since"}.
        </p>
      )}
      {c.unpriced > 0 && <p className="text-quiet">{several(c.unpriced, "part")} without a price.</p>}
      <p className="text-quiet text-small border-t border-hair pt-2">
        Time is counted while a step is open until an entry is made. Overlaps count once; gaps of an hour do
        not count. You can correct your own time at the step.
      </p>
    </aside>
  );
}

const label = 130;
const wide = 390;
/** For "so far / estimated" behind the longest bar. */
const room = 215;
const high = 46;

/** Each kind of cost a bar: so far filled, what is still to come hatched, the estimate as an outline. */
function Bars({ cost: c }: { cost: Cost }) {
  const { end } = scale(
    Math.max(...c.lines.flatMap((l) => [l.so_far, l.estimated ?? 0]), c.agreed?.sum ?? 0),
  );
  const x = (v: number) => label + (v / end) * wide;
  const height = c.lines.length * high + 26;
  return (
    <svg
      viewBox={`0 0 ${label + wide + room} ${height}`}
      className="w-full min-w-[520px]"
      role="img"
      aria-label={c.lines
        .map((l) => `${l.title}: ${money(l.so_far)}${l.estimated == null ? "" : ` of ${money(l.estimated)}`}`)
        .join("; ")}
    >
      {c.lines.map((l, i) => (
        <Lane key={l.id} line={l} y={8 + i * high} x={x} />
      ))}
      {c.agreed && (
        <g>
          <path
            d={`M${x(c.agreed.sum)} 4V${height - 18}`}
            stroke="var(--out)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
          <text x={x(c.agreed.sum)} y={height - 4} textAnchor="middle" fontSize="13" fill="var(--out)">
            approved up to {money(c.agreed.sum)}
          </text>
        </g>
      )}
    </svg>
  );
}

type LaneProps = { line: Cost["lines"][number]; y: number; x: (sum: number) => number };

/** One kind of cost: here filled, to come hatched, the estimate round it. */
function Lane({ line: l, y, x }: LaneProps) {
  const here = l.so_far - l.coming;
  return (
    <g>
      <text x="8" y={y + 22} fontSize="16" fontWeight={l.id === "sum" ? 600 : 400} fill="var(--ink)">
        {l.title}
      </text>
      <rect x={label} y={y + 8} width={x(here) - label} height="18" fill="var(--ink)" opacity="0.85" />
      <rect
        x={x(here)}
        y={y + 8}
        width={x(l.so_far) - x(here)}
        height="18"
        fill="var(--tint)"
        stroke="var(--blue)"
        strokeDasharray="4 3"
      />
      {l.estimated != null && (
        <rect
          x={label}
          y={y + 4}
          width={Math.max(2, x(l.estimated) - label)}
          height="26"
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.3"
        />
      )}
      <text x={label + wide + room - 8} y={y + 22} textAnchor="end" fontSize="15" className="font-mono">
        {money(l.so_far)}
        {l.estimated != null && ` / ${money(l.estimated)}`}
      </text>
    </g>
  );
}

function Times({ cost: c }: { cost: Cost }) {
  const steps = bySurprise(c.steps).filter((s) => s.minutes > 0 || s.planned);
  if (steps.length === 0)
    return <p className="bg-sheet border border-ink p-5">No time on this rebuild yet.</p>;
  const most = Math.max(1, ...steps.map((s) => Math.max(s.minutes, s.planned ?? 0)));
  return (
    <section aria-label="Time at the steps" className="bg-sheet border border-ink">
      <h2 className="text-head px-4 py-2 border-b border-ink">Time per step, worst first</h2>
      <ul>
        {steps.map((s) => (
          <li
            key={s.step}
            className={`${bar} gap-4 items-center px-4 min-h-11 border-b border-hair last:border-b-0`}
          >
            <Link
              to="/rebuilds/$id/$step"
              params={{ id: c.rebuild.id, step: s.step }}
              className="text-ink min-h-11 flex items-center"
            >
              {s.title}
            </Link>
            <span className="relative h-[14px] block" aria-hidden="true">
              <span
                className="absolute inset-y-0.5 left-0 bg-ink"
                style={{ width: `${(100 * s.minutes) / most}%` }}
              />
              {s.planned && (
                <span
                  className="absolute inset-y-0 left-0 border border-ink"
                  style={{ width: `${(100 * s.planned) / most}%` }}
                />
              )}
            </span>
            <span className="text-small text-right">
              <span className="font-mono">{sayMinutes(s.minutes)}</span>
              {s.planned && <span className="text-quiet"> of {sayMinutes(s.planned)}</span>}
              <span className="block text-quiet">
                {s.people
                  .map((p) => `${p.name} ${sayMinutes(p.minutes)}${p.entry ? ", typed in" : ""}`)
                  .join("; ")}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
