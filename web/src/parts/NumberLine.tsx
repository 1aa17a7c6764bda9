import { scaleLinear } from "d3-scale";
import type { Verdict } from "../model/types";
import { ShapeMark } from "./Verdict";

type Props = {
  value: number;
  uncertainty: number;
  lower?: number;
  upper?: number;
  unit: string;
  verdict: Verdict;
  decimals: number;
};

/** A number with its uncertainty against its limits, to scale. */
export function NumberLine({ value, uncertainty, lower, upper, unit, verdict, decimals }: Props) {
  const width = 272;
  const limits = [lower, upper].filter((x) => x !== undefined);
  const low = Math.min(0, value - uncertainty, ...limits);
  const high = Math.max(value + uncertainty, ...limits);
  const x = scaleLinear([low, high + (high - low) * 0.12 || 1], [10, width - 12]).nice(4);
  const [from, to] = x.domain() as [number, number];
  const inFrom = lower ?? from;
  const inTo = upper ?? to;
  const colour = {
    in: "text-in",
    out: "text-out",
    undecided: "text-undecided",
    none: "text-quiet",
    "": "text-quiet",
  }[verdict];
  return (
    <svg
      width={width}
      height="70"
      viewBox={`0 0 ${width} 70`}
      className="max-w-full"
      role="img"
      aria-label={`${value.toFixed(decimals)} ± ${uncertainty.toFixed(decimals)} ${unit}, ${limitWords(lower?.toFixed(decimals), upper?.toFixed(decimals))}`}
    >
      <rect
        x={x(inFrom)}
        y="33"
        width={Math.max(0, x(inTo) - x(inFrom))}
        height="5"
        className="fill-in opacity-75"
      />
      <line x1="10" x2={width - 12} y1="38" y2="38" className="stroke-ink" strokeWidth="1.2" />
      {x.ticks(4).map((t) => (
        <g key={t} transform={`translate(${x(t)} 0)`}>
          <line y1="38" y2="46" className="stroke-ink" strokeWidth="1.2" />
          <text y="61" textAnchor="middle" fontSize="12" className="fill-quiet!">
            {x.tickFormat(4)(t)}
          </text>
        </g>
      ))}
      {limits.map((l) => (
        <line key={l} x1={x(l)} x2={x(l)} y1="20" y2="46" className="stroke-in" strokeWidth="1.6" />
      ))}
      <g className={colour} stroke="currentColor" strokeWidth="1.6">
        <line x1={x(value - uncertainty)} x2={x(value + uncertainty)} y1="25" y2="25" />
        {[value - uncertainty, value + uncertainty].map((end, i) => (
          <line key={i} x1={x(end)} x2={x(end)} y1="20" y2="30" />
        ))}
        <g transform={`translate(${x(value)} 25)`} stroke="none">
          <ShapeMark verdict={verdict} r={5} />
        </g>
      </g>
      <text x={width - 12} y="12" textAnchor="end" fontSize="12" className="fill-quiet!">
        {unit}
      </text>
    </svg>
  );
}

function limitWords(lower: string | undefined, upper: string | undefined) {
  if (lower === undefined) return upper === undefined ? "no limits" : `at most ${upper}`;
  return upper === undefined ? `at least ${lower}` : `limits ${lower} to ${upper}`;
}
