import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import { drawn } from "../../model/number";
import type { InputOf, ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { bench, type Face } from "../bench";
import { GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"bearing-preload">;
type Input = Partial<InputOf<"bearing-preload">>;
type Props = Face<"bearing-preload">;

const plot = { left: 90, right: 860, top: 30, bottom: 250 };

/** Turning torque over the nut's turn, with the band of these bearings: the curve so far and the next small step. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const curve = curveOf(input, out, p.units);
  const places = step ? [] : [...row(p, "readings", 290), ...row(p, "sleeve", 360)];
  return (
    <>
      <Frame
        label={title}
        block={[
          ["bearings", input.bearings ?? "not said"],
          ...(step ? ([["sheet", step.sheet]] as const) : []),
        ]}
        wide
      >
        <Over
          width={900}
          height={step ? 300 : 500}
          says={`Turning torque. ${out?.says ?? "Not measured yet"}`}
          places={places}
        >
          <Plot curve={curve} out={out} units={p.units} />
        </Over>
      </Frame>
      {rest(step ? [] : ["readings", "sleeve"])}
    </>
  );
}

/** The readings over a turn, or the nut's steps with what it turned at: as many as there are, and one more. */
function row(p: Props, list: "readings" | "sleeve", y: number): PlaceOver[] {
  const many = (p.input[list]?.length ?? 0) + 1;
  const cells =
    list === "readings"
      ? [["", "it turns at"]]
      : [
          [".nut_deg", "nut turned to, °"],
          [".torque", "then it turns at"],
        ];
  return Array.from({ length: many }, (_, i) =>
    cells.map(([end, label], k) => ({
      x: 100 + 130 * i,
      y: y + 66 * k,
      shows: <GivenAt face={p} path={`${list}[${i}]${end}`} label={`${label} (${i + 1})`} />,
    })),
  ).flat();
}

type Point = { deg: number; torque: number };
type Curve = {
  sleeve: boolean;
  points: Point[];
  most: number;
  last: number;
  next: Point | undefined;
  unit: string;
};

/** The points so far and the one expected next, on one scale; without a sleeve the readings stand side by side. */
function curveOf(input: Input, out: Out | undefined, units: Units): Curve {
  const unit = out?.preload.unit ?? "N·m";
  const sleeve = (input.sleeve ?? []).flatMap(({ nut_deg, torque }) =>
    pointOf(drawn(nut_deg), torque, unit, units),
  );
  const turned = (input.readings ?? []).flatMap((r, i) => pointOf(10 * i, r, unit, units));
  const points = sleeve.length > 0 ? sleeve : turned;
  const next = sleeve.length > 0 && out ? nextOf(out, sleeve, unit, units) : undefined;
  const all = [...points, ...(next ? [next] : [])];
  const top = out ? inUnit(out.range.max, unit, units) : 1;
  return {
    sleeve: sleeve.length > 0,
    points,
    most: 1.25 * Math.max(top, ...all.map((x) => x.torque)),
    last: Math.max(10, ...all.map((x) => x.deg)),
    next,
    unit,
  };
}

/** A point of the curve, where both of its figures are said. */
function pointOf(deg: number | undefined, torque: unknown, unit: string, units: Units): Point[] {
  const q = asQuantity(torque);
  return q && deg !== undefined ? [{ deg, torque: inUnit(q, unit, units) }] : [];
}

/** What the next small step should read. */
function nextOf(out: Out, sleeve: readonly Point[], unit: string, units: Units): Point | undefined {
  const { expected_at_next_step: expected, next_step_deg: step } = out;
  if (!expected) return undefined;
  return { deg: (sleeve.at(-1)?.deg ?? 0) + (step ?? 10), torque: inUnit(expected, unit, units) };
}

type PlotProps = { curve: Curve; out: Out | undefined; units: Units };

/** The band, the curve, the next step dashed, and the line that is never gone back over. */
function Plot({ curve, out, units }: PlotProps) {
  const x = (deg: number) => plot.left + ((plot.right - plot.left - 40) * deg) / curve.last;
  const y = (torque: number) => plot.bottom - ((plot.bottom - plot.top) * torque) / curve.most;
  const path = (points: readonly Point[]) =>
    points.map((p, i) => `${i ? "L" : "M"}${x(p.deg)} ${y(p.torque)}`).join("");
  const last = curve.points.at(-1);
  return (
    <g fontSize="13">
      {out && <Band range={out.range} y={(q) => y(inUnit(q, curve.unit, units))} units={units} />}
      <path
        d={`M${plot.left} ${plot.top}V${plot.bottom}H${plot.right}`}
        className="stroke-ink fill-none"
        strokeWidth="1.6"
      />
      <text x={plot.left - 8} y={plot.top + 6} textAnchor="end" className="fill-quiet!">
        {curve.unit}
      </text>
      <text x={plot.right} y={plot.bottom + 20} textAnchor="end" className="fill-quiet!">
        {curve.sleeve
          ? "the nut turns this way only: a crushed sleeve never comes back"
          : "readings over a turn, in their order"}
      </text>
      <path d={path(curve.points)} className="stroke-ink fill-none" strokeWidth="2.4" />
      {curve.points.map((p, i) => (
        <g key={i}>
          <circle cx={x(p.deg)} cy={y(p.torque)} r="5" className="fill-ink" />
          <text x={x(p.deg) + 9} y={y(p.torque) + 17} className="font-mono">
            {p.torque.toFixed(2)}
          </text>
        </g>
      ))}
      {last && curve.next && (
        <>
          <path
            d={path([last, curve.next])}
            className="stroke-blue fill-none"
            strokeWidth="2"
            strokeDasharray="6 4"
          />
          <circle
            cx={x(curve.next.deg)}
            cy={y(curve.next.torque)}
            r="6"
            className="fill-none stroke-blue"
            strokeWidth="2"
          />
          <text
            x={x(curve.next.deg) - 4}
            y={y(curve.next.torque) - 12}
            textAnchor="end"
            className="font-mono font-semibold fill-blue!"
          >
            {curve.next.torque.toFixed(2)} after {curve.next.deg - last.deg}° more
          </text>
        </>
      )}
    </g>
  );
}

type BandProps = { range: Out["range"]; y: (q: Quantity) => number; units: Units };

/** Where the torque should come to lie. */
const Band = ({ range, y, units }: BandProps) => (
  <g>
    <rect
      x={plot.left}
      y={y(range.max)}
      width={plot.right - plot.left}
      height={Math.max(2, y(range.min) - y(range.max))}
      className="fill-in/15"
    />
    <text x={plot.right - 6} y={y(range.max) - 6} textAnchor="end" className="fill-in!">
      {sayQ(range.min, units)} to {sayQ(range.max, units)}
    </text>
  </g>
);

/** The preload without the seal's drag against its band, and the next small step. */
function Meaning({ out, units, step }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label={step?.preview ? "Preload with this reading" : "Preload, seal drag taken off"}
        value={out.preload}
        uncertainty={out.uncertainty}
        verdict={out.verdict}
        units={units}
      />
      <LimitLine
        value={out.preload}
        uncertainty={out.uncertainty}
        min={out.range.min}
        max={out.range.max}
        verdict={out.verdict}
        units={units}
      />
      <NextMove says={out.says}>
        {out.expected_at_next_step && (
          <p className="mt-2 text-note">
            Turn the nut {out.next_step_deg}° on, then expect {sayQ(out.expected_at_next_step, units)}
            {out.expected_uncertainty && ` ± ${sayQ(out.expected_uncertainty, units)}`}.
          </p>
        )}
      </NextMove>
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Beam wrench on the nut, turned steadily over a whole turn, read while it moves. Without half shafts and ring: only bearings and seal.",
  wrong: "Breakaway is more than turning and does not count. Too far on a crush sleeve means a new sleeve.",
  why: "Rollers that are squeezed drag. The band for used bearings is lower, for they are polished.",
};

export default bench<"bearing-preload">({ calc: "bearing-preload", Drawing, Meaning });
