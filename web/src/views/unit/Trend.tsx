import { rounded } from "../../model/number";
import { scaleLinear } from "d3-scale";
import type { Trend } from "../../model/types";

const wide = 360;
const high = 96;
const left = 8;
const right = 70;

/** One figure over the rebuilds: a mark each, between its limits. */
export function TrendDrawn({ trend: t }: { trend: Trend }) {
  const values = t.points.map((p) => p.value);
  const marks = [
    ...values,
    ...(typeof t.min === "number" ? [t.min] : []),
    ...(typeof t.max === "number" ? [t.max] : []),
  ];
  const low = Math.min(...marks);
  const top = Math.max(...marks);
  const air = (top - low || Math.abs(top) || 1) * 0.18;
  const y = scaleLinear([low - air, top + air], [high - 4, 4]);
  const x = scaleLinear([0, Math.max(1, t.points.length - 1)], [left + 10, wide - right - 14]);
  const within = (v: number) => v >= (t.min ?? -Infinity) && v <= (t.max ?? Infinity);
  const last = t.points.at(-1);
  const title = t.what ? `${t.title}: ${t.what}` : t.title;
  const said = t.points.map((p) => `${p.anew ? "new parts; " : ""}${p.number}: ${p.says}`).join("; ");
  return (
    <figure className="bg-sheet border border-ink -mt-px -ml-px px-4 py-3" aria-label={title}>
      <figcaption className="flex justify-between gap-3 text-note">
        <span>{title}</span>
        {last && <span className="font-mono font-medium whitespace-nowrap">{last.says}</span>}
      </figcaption>
      <svg viewBox={`0 0 ${wide} ${high}`} className="w-full" role="img" aria-label={said}>
        {[t.min, t.max].map(
          (limit, i) =>
            typeof limit === "number" && (
              <g key={i === 0 ? "min" : "max"}>
                <line
                  x1={left}
                  x2={wide - right}
                  y1={y(limit)}
                  y2={y(limit)}
                  stroke="var(--ink)"
                  strokeDasharray="5 4"
                />
                <text x={wide - right + 5} y={y(limit) + 4} fontSize="13" fill="var(--quiet)">
                  {i === 0 ? "≥" : "≤"} {short(limit)} {t.unit}
                </text>
              </g>
            ),
        )}
        {t.points.map((p, i) => {
          const before = t.points[i - 1];
          if (!before) return null;
          // What was measured before a part was renewed is no figure of the new one.
          return p.anew ? (
            <line
              key={p.number}
              x1={(x(i - 1) + x(i)) / 2}
              x2={(x(i - 1) + x(i)) / 2}
              y1="8"
              y2={high - 8}
              stroke="var(--hair)"
              strokeWidth="2"
            />
          ) : (
            <line
              key={p.number}
              x1={x(i - 1)}
              y1={y(before.value)}
              x2={x(i)}
              y2={y(p.value)}
              stroke="var(--blue)"
              strokeWidth="1.5"
            />
          );
        })}
        {t.points.map((p, i) =>
          within(p.value) ? (
            <circle key={p.number} cx={x(i)} cy={y(p.value)} r="4.5" fill="var(--in)" />
          ) : (
            <rect key={p.number} x={x(i) - 4.5} y={y(p.value) - 4.5} width="9" height="9" fill="var(--out)" />
          ),
        )}
      </svg>
      <p className="text-quiet text-small flex justify-between">
        <span>{t.points[0]?.number}</span>
        {t.points.some((p) => p.anew) && <span>a bar: new parts in between</span>}
        {t.points.length > 1 && <span>{last?.number}</span>}
      </p>
    </figure>
  );
}

const short = (v: number) => String(rounded(v, 4));
