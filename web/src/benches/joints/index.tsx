import { drawn } from "../../model/number";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";

type Out = ResultOf<"joints">;
type Props = Face<"joints">;

/** The line of shafts with its joints, bent alternately by their angles, each angle written. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Line
          out={out}
          angles={(input.joints ?? []).map(angleOf)}
          phased={(input.joints ?? []).map((j) => j.phased)}
        />
      </Frame>
      {rest([])}
    </>
  );
}

type Joint = NonNullable<Props["input"]["joints"]>[number];

/** As it is typed: the true angle, or the larger of what is seen from the side and from above. */
const angleOf = (j: Joint) =>
  Math.abs(
    drawn(j.angle_deg ?? undefined) ?? Math.max(Math.abs(side(j.side_deg)), Math.abs(side(j.plan_deg))),
  );

const side = (deg: number | null | undefined) => drawn(deg ?? undefined) ?? 0;

type LineProps = { out: Out | undefined; angles: number[]; phased: (boolean | undefined)[] };

function Line({ out, angles, phased }: LineProps) {
  const span = 700 / (angles.length + 1);
  // The line rises at one joint and levels at the next, as a vehicle's does.
  const slopes = angles.reduce<number[]>((all, a, i) => [...all, (all.at(-1) ?? 0) + (i % 2 ? a : -a)], [0]);
  const points = slopes.reduce<{ x: number; y: number }[]>(
    (all, deg) => {
      const { x, y } = all.at(-1) ?? start;
      const t = (deg * Math.PI) / 180;
      return [...all, { x: x + span * Math.cos(t), y: y - span * Math.sin(t) }];
    },
    [start],
  );
  return (
    <svg viewBox="0 0 900 280" className="w-full" role="img" aria-label={`Joints. ${out?.says ?? ""}`}>
      <path
        d={points.map(({ x, y }, i) => `${i ? "L" : "M"}${x} ${y}`).join("")}
        className="stroke-ink fill-none"
        strokeWidth="9"
        strokeLinejoin="round"
      />
      {angles.map((a, i) => {
        const { x, y } = points[i + 1] ?? start;
        return (
          <g key={i}>
            <circle cx={x} cy={y} r="13" className="fill-sheet stroke-ink" strokeWidth="2.4" />
            <path
              d={phased[i] === false ? `M${x - 9} ${y}H${x + 9}` : `M${x} ${y - 9}V${y + 9}`}
              className="stroke-ink"
              strokeWidth="2.4"
            />
            <text x={x} y={y - 24} textAnchor="middle" fontSize="16" className="font-mono">
              {a.toFixed(1)}°
            </text>
            <text x={x} y={y + 36} textAnchor="middle" fontSize="12" className="fill-quiet!">
              joint {i + 1}
              {phased[i] === false ? ", a quarter turn off" : ""}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

const start = { x: 100, y: 120 };

/** What the joints come to together. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="Together they act like one joint at"
        value={{ value: out.equivalent_deg, unit: "°" }}
        verdict={out.verdict}
        below={`the output gains and loses ${(100 * out.peak_to_peak).toFixed(2)} % twice a turn`}
        units={units}
      />
      <Facts
        of={out.joints.map((j, i) => [`joint ${i + 1} alone`, `${(100 * j.peak_to_peak).toFixed(2)} %`])}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Vehicle on its wheels. Lay the angle gauge on flange and tube; type the difference of the two.",
  wrong: "Springs that hang give other angles than springs that carry.",
  why:
    "One joint at an angle turns the other shaft fast and slow, twice a turn. " +
    "A second at the same angle, forks in line, undoes it.",
};

export default bench<"joints">({ calc: "joints", Drawing, Meaning });
