import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import { drawn } from "../../model/number";
import type { InputOf, ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { merged, packWords } from "../../model/pack";
import { Facts } from "../../parts/Facts";
import { bench, type Face } from "../bench";
import { FitPack } from "../fit";
import { GivenRow, Over } from "../given";

type Out = ResultOf<"bearing-preload">;
type Input = Partial<InputOf<"bearing-preload">>;
type Props = Face<"bearing-preload">;

const plot = { left: 90, right: 860, top: 30, bottom: 250 };

/**
 * Turning torque over the nut's turn, with the band of these bearings: the curve so far and the next small
 * step.
 */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const curve = curveOf(input, out, p.units);
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
          height={300}
          says={`Turning torque. ${out?.says ?? "Not measured yet"}`}
          places={[]}
        >
          <Plot curve={curve} out={out} units={p.units} />
        </Over>
        {!step && typed(input).map((fields) => <GivenRow key={fields[0]?.[0]} face={p} fields={fields} />)}
      </Frame>
      {rest(step ? ["trials"] : ["readings", "sleeve", "trials"])}
    </>
  );
}

type Fields = (readonly [path: string, label: string])[];

/** One more than there are. */
const andOneMore = <T,>(list: readonly T[] | undefined, of: (i: number) => Fields) =>
  Array.from({ length: (list?.length ?? 0) + 1 }, (_, i) => of(i));

/** The readings over a turn; the nut's steps, or the packs tried, each with what it then turned at. */
const typed = ({ readings, sleeve, trials }: Input): Fields[] => [
  andOneMore(readings, (i) => [[`readings[${i}]`, `it turns at (${i + 1})`]]).flat(),
  ...andOneMore(sleeve, (i) => [
    [`sleeve[${i}].nut_deg`, `nut turned to, ° (${i + 1})`],
    [`sleeve[${i}].torque`, `then it turns at (${i + 1})`],
  ]),
  ...andOneMore(trials, (i) => [
    [`trials[${i}].pack`, `pack tried (${i + 1})`],
    [`trials[${i}].readings[0]`, `with it, turns at (${i + 1})`],
    [`trials[${i}].readings[1]`, `and again (${i + 1})`],
    [`trials[${i}].readings[2]`, `once more (${i + 1})`],
  ]),
];

type Point = { deg: number; torque: number };
type Curve = {
  of: "sleeve" | "turn" | "packs";
  points: Point[];
  most: number;
  first: number;
  last: number;
  next: Point | undefined;
  unit: string;
};

const below = {
  sleeve: "the nut turns this way only: a crushed sleeve never comes back",
  turn: "readings over a turn, in their order",
  packs: "packs tried, thicker to the right",
};

/** The points so far and the one expected next, on one scale; readings stand side by side. */
function curveOf(input: Input, out: Out | undefined, units: Units): Curve {
  const unit = out?.preload.unit ?? "N·m";
  const [of, points] = pointsOf(input, unit, units);
  const next = out && nextOf(out, points, unit, units);
  const all = [...points, ...(next ? [next] : [])];
  const top = out ? inUnit(out.range.max, unit, units) : 1;
  const first = of === "packs" ? Math.min(...all.map((x) => x.deg)) : 0;
  const least = of === "packs" ? first + 0.05 : 10;
  return {
    of,
    points,
    most: 1.25 * Math.max(top, ...all.map((x) => x.torque)),
    first,
    last: Math.max(least, ...all.map((x) => x.deg)),
    next,
    unit,
  };
}

/** What was measured: along the nut's turn, over the packs tried, or in the order of reading. */
function pointsOf(input: Input, unit: string, units: Units): [Curve["of"], Point[]] {
  const packs = (input.trials ?? []).flatMap(({ pack, readings }) => {
    const q = asQuantity(pack);
    return q
      ? (readings ?? []).flatMap((r) => pointOf(inUnit(q, "mm", units), r, unit, units)).slice(-1)
      : [];
  });
  if (packs.length > 0) return ["packs", packs];
  const sleeve = (input.sleeve ?? []).flatMap(({ nut_deg, torque }) =>
    pointOf(drawn(nut_deg), torque, unit, units),
  );
  if (sleeve.length > 0) return ["sleeve", sleeve];
  return ["turn", (input.readings ?? []).flatMap((r, i) => pointOf(10 * i, r, unit, units))];
}

/** A point of the curve, where both of its figures are said. */
function pointOf(deg: number | undefined, torque: unknown, unit: string, units: Units): Point[] {
  const q = asQuantity(torque);
  return q && deg !== undefined ? [{ deg, torque: inUnit(q, unit, units) }] : [];
}

/** What the next small step of the nut should read, or the pack to fit. */
function nextOf(out: Out, points: readonly Point[], unit: string, units: Units): Point | undefined {
  const { expected_at_next_step: expected, next_step_deg: step, pack, range } = out;
  if (pack) {
    const middle = (inUnit(range.min, unit, units) + inUnit(range.max, unit, units)) / 2;
    return { deg: inUnit(pack.aim, "mm", units), torque: middle };
  }
  if (!expected) return undefined;
  return { deg: (points.at(-1)?.deg ?? 0) + (step ?? 10), torque: inUnit(expected, unit, units) };
}

type PlotProps = { curve: Curve; out: Out | undefined; units: Units };

/** The band, the curve, the next step dashed, and the line that is never gone back over. */
function Plot({ curve, out, units }: PlotProps) {
  const x = (deg: number) =>
    plot.left + ((plot.right - plot.left - 40) * (deg - curve.first)) / (curve.last - curve.first);
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
        {below[curve.of]}
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
      {last && curve.next && <Ahead curve={curve} last={last} next={curve.next} at={path} x={x} y={y} />}
    </g>
  );
}

type AheadProps = {
  curve: Curve;
  last: Point;
  next: Point;
  at: (points: readonly Point[]) => string;
  x: (deg: number) => number;
  y: (torque: number) => number;
};

/** The next small step of the nut, or the pack to fit, dashed, with what it should turn at. */
const Ahead = ({ curve, last, next, at, x, y }: AheadProps) => (
  <>
    <path d={at([last, next])} className="stroke-blue fill-none" strokeWidth="2" strokeDasharray="6 4" />
    <circle cx={x(next.deg)} cy={y(next.torque)} r="6" className="fill-none stroke-blue" strokeWidth="2" />
    <text
      x={x(next.deg) - 4}
      y={y(next.torque) - 12}
      textAnchor="end"
      className="font-mono font-semibold fill-blue!"
    >
      {next.torque.toFixed(2)}{" "}
      {curve.of === "packs" ? `with ${next.deg.toFixed(3)} mm` : `after ${next.deg - last.deg}° more`}
    </text>
  </>
);

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
      {out.pack && <PackTo pack={out.pack} step={step} units={units} />}
      <Method out={out} help={help} />
    </>
  );
}

/** How the torque answers the pack, and what of the drawer makes the one wanted. */
function PackTo({ pack, step, units }: Pick<Props, "step" | "units"> & { pack: NonNullable<Out["pack"]> }) {
  const [best] = pack.packs;
  return (
    <>
      <Facts
        of={[
          ["pack wanted", `${sayQ(pack.min, units)} to ${sayQ(pack.max, units)}`],
          [`${sayQ(pack.per, units)} of pack gives`, sayQ(pack.rise, units)],
          ["from the drawer", best ? packWords(best.pieces, (q) => sayQ(q, units)) : "none makes it"],
        ]}
      />
      {best && <FitPack pack={merged(best.pieces)} step={step} />}
    </>
  );
}

const help: HelpText = {
  hold:
    "Beam wrench on the nut, turned steadily over a whole turn, read while it moves. " +
    "Without half shafts and ring: only bearings and seal.",
  wrong: "Breakaway is more than turning and does not count. Too far on a crush sleeve means a new sleeve.",
  why: "Rollers that are squeezed drag. The band for used bearings is lower, for they are polished.",
};

export default bench<"bearing-preload">({ calc: "bearing-preload", Drawing, Meaning });
