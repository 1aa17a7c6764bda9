import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { several } from "../../model/several";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { bench, type Face } from "../bench";
import { GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"reading-set">;
type Props = Face<"reading-set">;

const plot = { left: 90, right: 850, top: 34, bottom: 170 };

/** The readings in the order in which they were taken, their mean, how sure it is, and the limits. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const readings = (step?.readings ?? input.readings ?? []).flatMap((r) => asQuantity(r) ?? []);
  const loose = !step && p.onInput !== undefined;
  return (
    <>
      <Frame label={title} block={step && [["gauge", step.gauge ?? "none chosen"]]} wide>
        <Over
          width={900}
          height={loose ? 290 : 200}
          says={`Readings in their order. ${out ? `Mean ${sayQ(out.mean, units, 1)}` : "None yet"}`}
          places={loose ? typedAt(p) : []}
        >
          {readings.length > 0 && <Dots readings={readings} out={out} limits={limitsOf(p)} units={units} />}
        </Over>
      </Frame>
      {rest(loose ? ["readings", "lower", "upper"] : [])}
    </>
  );
}

/** Every reading, one more, and both limits. */
const typedAt = (p: Props): PlaceOver[] => [
  ...Array.from({ length: Math.min(6, (p.input.readings?.length ?? 0) + 1) }, (_, i) => ({
    x: 100 + 122 * i,
    y: 212,
    shows: <GivenAt face={p} path={`readings[${i}]`} label={`reading ${i + 1}`} />,
  })),
  { x: 790, y: 20, shows: <GivenAt face={p} path="upper" label="at most" /> },
  { x: 790, y: 110, shows: <GivenAt face={p} path="lower" label="at least" /> },
];

const limitsOf = ({ step, input }: Props) => ({
  min: step?.limits?.min ?? asQuantity(input.lower),
  max: step?.limits?.max ?? asQuantity(input.upper),
});

type DotsProps = {
  readings: Quantity[];
  out: Out | undefined;
  limits: { min?: Quantity | undefined; max?: Quantity | undefined };
  units: Units;
};

/** The readings as marks from left to right; the band is what the mean may be. */
function Dots({ readings, out, limits, units }: DotsProps) {
  const unit = readings[0]?.unit ?? "mm";
  const values = readings.map((q) => inUnit(q, unit, units));
  const mean = out && inUnit(out.mean, unit, units);
  const spread = out?.uncertainty ? inUnit(out.uncertainty, unit, units) : 0;
  const edges = [limits.min, limits.max].flatMap((q) => (q ? [inUnit(q, unit, units)] : []));
  const all = [...values, ...edges, ...(mean === undefined ? [] : [mean - spread, mean + spread])];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = (high - low || Math.abs(high) || 1) * 0.12;
  const y = (v: number) =>
    plot.bottom - ((plot.bottom - plot.top) * (v - low + room)) / (high - low + 2 * room);
  const x = (i: number) => plot.left + 40 + ((560 - 40) * i) / Math.max(1, values.length - 1);
  return (
    <g fontSize="13">
      <path
        d={`M${plot.left} ${plot.top - 14}V${plot.bottom + 8}`}
        className="stroke-ink"
        strokeWidth="1.4"
      />
      {mean !== undefined && (
        <>
          <rect
            x={plot.left}
            y={y(mean + spread)}
            width="600"
            height={Math.max(1, y(mean - spread) - y(mean + spread))}
            className="fill-blue/10"
          />
          <path d={`M${plot.left} ${y(mean)}h600`} className="stroke-blue" strokeWidth="1.6" />
        </>
      )}
      {edges.map((e) => (
        <path
          key={e}
          d={`M${plot.left} ${y(e)}h600`}
          className="stroke-in"
          strokeDasharray="6 4"
          strokeWidth="1.6"
        />
      ))}
      {values.map((v, i) => (
        <g key={i}>
          <circle cx={x(i)} cy={y(v)} r="5" className="fill-ink" />
          <text x={x(i) + 9} y={y(v) - 7} className="font-mono">
            {readings[i] && sayQ(readings[i], units)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** The mean between its limits, and what would settle it. */
function Meaning(p: Props) {
  const { out, step, units } = p;
  if (!out) return null;
  const { min, max } = limitsOf(p);
  return (
    <>
      <BigFigure
        label={step?.preview ? "Mean with this reading" : "Mean"}
        value={out.mean}
        uncertainty={out.uncertainty}
        more={1}
        below={`${several(out.n, "reading")}, apart by ${sayQ(out.range, units)}${out.rests_on_one_reading ? "; one alone is not sure" : ""}`}
        verdict={out.verdict}
        beyond={out.beyond}
        units={units}
      />
      <LimitLine
        value={out.mean}
        uncertainty={out.uncertainty}
        min={min}
        max={max}
        verdict={out.verdict}
        units={units}
      />
      {out.would_decide && <NextMove says={out.would_decide.says} />}
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "The same place, the same pressure, set down anew for each reading.",
  wrong: "Readings taken without lifting the gauge are one reading.",
  why: "The mean is surer than any single reading; how far they lie apart says how sure.",
};

export default bench<"reading-set">({ calc: "reading-set", Drawing, Meaning });
