import { ratioOf } from "../../model/drawn";
import type { DrawnProps } from "./index";

const wide = 420;
const high = 120;
const left = 30;

/** Running in as it is driven: how fast until which distance. */
export function StagesDrawn({ rows, typed }: DrawnProps) {
  const stages = rows.flatMap((_, i) => {
    const says = typed[`${i}.until`] ?? "";
    const [until, share] = [ratioOf(says.replace(/\s*[a-z]+\s*$/, "")), ratioOf(typed[`${i}.share`])];
    return until && share ? [{ until, share, says }] : [];
  });
  const fastest = Math.max(1, ...stages.map((s) => s.share));
  const end = Math.max(...stages.map((s) => s.until));
  if (stages.length === 0 || !(end > 0)) return null;
  const x = (d: number) => left + (d / end) * (wide - left - 60);
  const y = (share: number) => high - 24 - (share / fastest) * 76;
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      className="w-full max-w-[420px] border border-hair"
      role="img"
      aria-label="Speed over distance while running in"
    >
      <path d={`M${left} 8V${high - 24}H${wide - 8}`} fill="none" stroke="var(--quiet)" />
      <path d={`M${left} ${y(1)}H${wide - 8}`} stroke="var(--hair)" strokeDasharray="5 4" />
      <text x={wide - 8} y={y(1) - 5} textAnchor="end" fontSize={13} fill="var(--quiet)">
        once the speed
      </text>
      {stages.map((s, i) => {
        const from = x(stages[i - 1]?.until ?? 0);
        return (
          <g key={i}>
            <rect
              x={from}
              y={y(s.share)}
              width={Math.max(1, x(s.until) - from)}
              height={high - 24 - y(s.share)}
              fill="var(--tint)"
              stroke="var(--ink)"
            />
            <text x={x(s.until)} y={high - 8} textAnchor="middle" fontSize={13} fill="var(--ink)">
              {s.says}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
