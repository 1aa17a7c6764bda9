import { inUnit, say } from "../../model/quantity";
import type { Units } from "../../model/types";
import { lifeWords, type Worn } from "../../model/wear";

const from = 14;
const to = 186;

/**
 * What was measured of a part between new and its limit, as a short line: what is left of it lies to the
 * right.
 */
export function LifeLine({ worn: w, units }: { worn: Worn; units: Units }) {
  const left = w.left ?? 0;
  const at = (share: number) => to - Math.min(1.08, Math.max(-0.06, 1 - share)) * (to - from);
  const x = at(left);
  const { value } = w;
  const span = Math.abs(w.new.value - inUnit(w.limit, w.new.unit, units));
  const sure = w.sure && span > 0 ? inUnit(w.sure, w.new.unit, units) / span : 0;
  const colour = left < 0 ? "var(--out)" : left < 0.2 ? "var(--undecided)" : "var(--in)";
  return (
    <svg
      viewBox="0 0 200 42"
      className="w-[200px] max-w-full"
      role="img"
      aria-label={`${w.what} ${value ? say(value, units) : ""}${w.sure ? ` ± ${say(w.sure, units, 1)}` : ""}: ${lifeWords(left)}; new ${say(w.new, units)}, limit ${say(w.limit, units)}`}
    >
      <path d={`M${from} 20H${to}`} stroke="var(--ink)" strokeWidth="1.2" />
      <rect x={from} y="17" width={Math.max(0, x - from)} height="6" fill={colour} opacity="0.75" />
      <path d={`M${from} 10v20`} stroke="var(--out)" strokeWidth="1.8" />
      <path d={`M${to} 12v16`} stroke="var(--ink)" strokeWidth="1.2" />
      {sure > 0 && (
        <path
          d={`M${at(left - sure)} 3v6M${at(left - sure)} 6H${at(left + sure)}M${at(left + sure)} 3v6`}
          stroke="var(--ink)"
          strokeWidth="1.2"
          fill="none"
        />
      )}
      <path d={`M${x} 20l-5 -9h10z`} fill={colour} />
      <text x={from} y="40" fontSize="11.5" fill="var(--quiet)">
        {say(w.limit, units)}
      </text>
      <text x={to} y="40" fontSize="11.5" textAnchor="end" fill="var(--quiet)">
        {say(w.new, units)} new
      </text>
    </svg>
  );
}
