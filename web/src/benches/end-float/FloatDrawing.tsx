import { scaleLinear } from "d3-scale";
import { inUnit, say } from "../../model/quantity";
import type { PackOffered, Quantity, Trial, Units } from "../../model/types";
import type { FloatOut } from ".";

type Props = {
  out: FloatOut | undefined;
  trial: Trial | undefined;
  pack: PackOffered | undefined;
  units: Units;
};

/**
 * The shaft in its case: shoulder, pack to scale, the gap that is the float,
 * the indicator on the shaft's end. Lengths along the gap are drawn to one
 * scale; what is proposed is blue.
 */
export function FloatDrawing({ out, trial, pack, units }: Props) {
  const { x, float, inPlace } = along(out, trial, pack, units);
  const shoulder = wall + x(float + inPlace) + (out ? 0 : 60);
  return (
    <svg
      viewBox="0 0 460 268"
      className="w-full max-h-[300px]"
      role="img"
      aria-label={describe(out, pack, units)}
    >
      <Case />
      <path
        d={`M60 112H${shoulder}V66H${shoulder + 46}V100H440V164H${shoulder + 46}V198H${shoulder}V152H60Z`}
        className="fill-paper stroke-ink"
        strokeWidth="1.5"
      />
      <text x={shoulder + 52} y="92" fontSize="13" className="fill-quiet!">
        shaft
      </text>
      {out && (
        <>
          <Pieces at={wall} w={x(inPlace)} sum={trial?.sum} />
          <Gap
            from={wall + x(inPlace)}
            to={wall + x(inPlace + float)}
            text={`float ${say(out.float.mean, units)}`}
          />
        </>
      )}
      {pack && <Proposed pack={pack} at={wall} x={x} units={units} />}
      <Indicator />
    </svg>
  );
}

/** Where the case's thrust face is drawn. */
const wall = 214;

/** The float and the pack in place, in the float's unit, and the scale along the gap. */
function along(out: Props["out"], trial: Props["trial"], pack: Props["pack"], units: Units) {
  const unit = out?.float.mean.unit ?? "mm";
  const float = Math.max(0, out?.float.mean.value ?? 0);
  const inPlace = trial?.sum ? inUnit(trial.sum, unit, units) : 0;
  const then = pack ? pack.sum.value + Math.max(0, pack.float.value) : 0;
  const total = Math.max(float + inPlace, then, 1e-9);
  return { x: scaleLinear([0, total], [0, out ? 150 : 0]), float, inPlace };
}

/** The case in section, and the axis. */
const Case = () => (
  <>
    <defs>
      <pattern id="cut" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line y2="7" className="stroke-hair" strokeWidth="1.6" />
      </pattern>
    </defs>
    <line
      x1="6"
      x2="452"
      y1="132"
      y2="132"
      className="stroke-quiet"
      strokeWidth="0.8"
      strokeDasharray="16 3 3 3"
    />
    <path
      d={`M150 30H${wall}V104H196V118H150ZM150 234H${wall}V160H196V146H150Z`}
      fill="url(#cut)"
      className="stroke-ink"
      strokeWidth="1.4"
    />
    <text x="152" y="22" fontSize="13" className="fill-quiet!">
      case
    </text>
  </>
);

/** The pack in place, above and below the axis. */
function Pieces({ at, w, sum }: { at: number; w: number; sum: Quantity | undefined }) {
  if (w <= 0) return null;
  return (
    <g className="stroke-ink fill-sheet" strokeWidth="1.2">
      <rect x={at} y="68" width={w} height="36" />
      <rect x={at} y="160" width={w} height="36" />
      <text x={at + w / 2} y="61" fontSize="12" textAnchor="middle" stroke="none">
        {sum && `${sum.value} ${sum.unit} in place`}
      </text>
    </g>
  );
}

function Gap({ from, to, text }: { from: number; to: number; text: string }) {
  if (to - from < 0.5) return null;
  return (
    <g className="stroke-out" strokeWidth="1.3">
      <line x1={from} x2={from} y1="196" y2="224" />
      <line x1={to} x2={to} y1="196" y2="224" />
      <line x1={from} x2={to} y1="218" y2="218" />
      <path d={`M${from} 218l6 -3v6zM${to} 218l-6 -3v6z`} className="fill-out" stroke="none" />
      <text
        x={(from + to) / 2}
        y="240"
        fontSize="14"
        textAnchor="middle"
        stroke="none"
        className="fill-out! font-semibold"
      >
        {text}
      </text>
    </g>
  );
}

/** The proposed pack, each shim to scale, with the gap it would leave. */
function Proposed({
  pack,
  at,
  x,
  units,
}: {
  pack: PackOffered;
  at: number;
  x: (v: number) => number;
  units: Units;
}) {
  const unit = pack.sum.unit;
  const shims = pack.pieces.flatMap((p) =>
    Array.from({ length: p.count }, () => inUnit(p.thickness, unit, units)),
  );
  const edges = shims.reduce<number[]>((all, t) => [...all, (all.at(-1) ?? 0) + t], [0]);
  const sum = edges.at(-1) ?? 0;
  return (
    <g className="stroke-blue fill-tint" strokeWidth="1.6">
      {shims.map((t, i) => (
        <g key={i} className="motion-safe:animate-[slide_.5s_ease-out]">
          <rect x={at + x(edges[i] ?? 0)} y="70" width={Math.max(1, x(t))} height="33" />
          <rect x={at + x(edges[i] ?? 0)} y="161" width={Math.max(1, x(t))} height="33" />
        </g>
      ))}
      <text
        x={at + x(sum) / 2}
        y="61"
        fontSize="13"
        textAnchor="middle"
        stroke="none"
        className="fill-blue! font-semibold"
      >
        {shims.length > 0 ? `${say(pack.sum, units)} fitted` : "no pack"}
      </text>
      <text x={at + x(sum)} y="260" fontSize="13" stroke="none" textAnchor="middle" className="fill-blue!">
        then {say(pack.float, units)}
      </text>
    </g>
  );
}

/** A dial indicator, its plunger on the end of the shaft. */
function Indicator() {
  return (
    <g className="stroke-ink fill-sheet" strokeWidth="1.3">
      <path d="M60 132H46V128H30" />
      <rect x="42" y="126" width="18" height="12" />
      <circle cx="30" cy="88" r="24" />
      <path d="M30 112V128M30 88L40 72" fill="none" />
      {Array.from({ length: 12 }, (_, i) => (
        <line key={i} x1="30" x2="30" y1="66" y2="70" transform={`rotate(${30 * i} 30 88)`} />
      ))}
      <path d="M30 64V40H96V30H150" fill="none" />
    </g>
  );
}

function describe(out: FloatOut | undefined, pack: PackOffered | undefined, units: Units) {
  if (!out) return "Shaft in its case, not measured yet";
  return `Shaft in its case, float ${say(out.float.mean, units)}${pack ? `, a pack of ${say(pack.sum, units)} would give ${say(pack.float, units)}` : ""}`;
}
