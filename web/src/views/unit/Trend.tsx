import { rounded } from "../../model/number";
import { scaleLinear } from "d3-scale";
import type { Trend } from "../../model/types";

const wide = 360;
const high = 96;
const left = 8;
const right = 70;

type Point = Trend["points"][number];

/** One figure over the rebuilds: a mark each, between its limits. */
export function TrendDrawn({ trend: t }: { trend: Trend }) {
  const last = t.points.at(-1);
  const title = t.what ? `${t.title}: ${t.what}` : t.title;
  const says = t.points.map((p) => `${p.anew ? "new parts; " : ""}${p.number}: ${p.says}`).join("; ");
  const { x, y } = scales(t);
  return (
    <figure className="bg-sheet border border-ink -mt-px -ml-px px-4 py-3" aria-label={title}>
      <figcaption className="flex justify-between gap-3 text-note">
        <span>{title}</span>
        {last && <span className="font-mono font-medium whitespace-nowrap">{last.says}</span>}
      </figcaption>
      <svg viewBox={`0 0 ${wide} ${high}`} className="w-full" role="img" aria-label={says}>
        {typeof t.min === "number" && <Limit y={y(t.min)} says={`≥ ${short(t.min)} ${t.unit}`} />}
        {typeof t.max === "number" && <Limit y={y(t.max)} says={`≤ ${short(t.max)} ${t.unit}`} />}
        {t.points.map((p, i) => (
          <Between key={p.number} from={t.points[i - 1]} to={p} i={i} x={x} y={y} />
        ))}
        {t.points.map((p, i) =>
          p.out ? (
            <rect key={p.number} x={x(i) - 4.5} y={y(p.value) - 4.5} width="9" height="9" fill="var(--out)" />
          ) : (
            <circle key={p.number} cx={x(i)} cy={y(p.value)} r="4.5" fill="var(--in)" />
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

/** Rebuilds along, the figure up, with room for its limits. */
function scales(t: Trend) {
  const marks = [...t.points.map((p) => p.value), t.min, t.max].filter((v) => typeof v === "number");
  const low = Math.min(...marks);
  const top = Math.max(...marks);
  const air = (top - low || Math.abs(top) || 1) * 0.18;
  return {
    y: scaleLinear([low - air, top + air], [high - 4, 4]),
    x: scaleLinear([0, Math.max(1, t.points.length - 1)], [left + 10, wide - right - 14]),
  };
}

const Limit = ({ y, says }: { y: number; says: string }) => (
  <g>
    <line x1={left} x2={wide - right} y1={y} y2={y} stroke="var(--ink)" strokeDasharray="5 4" />
    <text x={wide - right + 5} y={y + 4} fontSize="13" fill="var(--quiet)">
      {says}
    </text>
  </g>
);

type BetweenProps = ReturnType<typeof scales> & { from: Point | undefined; to: Point; i: number };

/**
 * The way from one rebuild to the next; what was measured before a part was renewed is no figure of the
 * new one.
 */
function Between({ from, to, i, x, y }: BetweenProps) {
  if (!from) return null;
  const middle = (x(i - 1) + x(i)) / 2;
  return to.anew ? (
    <line x1={middle} x2={middle} y1="8" y2={high - 8} stroke="var(--hair)" strokeWidth="2" />
  ) : (
    <line
      x1={x(i - 1)}
      y1={y(from.value)}
      x2={x(i)}
      y2={y(to.value)}
      stroke="var(--blue)"
      strokeWidth="1.5"
    />
  );
}

const short = (v: number) => String(rounded(v, 4));
