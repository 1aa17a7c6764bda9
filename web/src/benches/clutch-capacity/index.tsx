import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import { drawn } from "../../model/number";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";

type Out = ResultOf<"clutch-capacity">;
type Props = Face<"clutch-capacity">;

const engine = [
  ["engine_torque", "engine gives"],
  ["service_factor", "times, at least"],
] as const;

/** What a clutch is told by. */
const fields = (i: number) =>
  [
    [`options[${i}].name`, `clutch ${i + 1}`],
    [`options[${i}].faces`, `faces (${i + 1})`],
    [`options[${i}].mu`, `friction (${i + 1})`],
    [`options[${i}].outer_diameter`, `outside (${i + 1})`],
    [`options[${i}].inner_diameter`, `inside (${i + 1})`],
    [`options[${i}].clamp`, `clamp (${i + 1})`],
  ] as const;

/** The diaphragm as a disc spring, where one asks what a worn disc leaves of the clamp. */
const worn = (i: number) =>
  [
    [`options[${i}].engagement`, `how it takes up (${i + 1})`],
    [`options[${i}].wear`, `both faces worn by (${i + 1})`],
    [`options[${i}].spring.de`, `spring, outside (${i + 1})`],
    [`options[${i}].spring.di`, `inside (${i + 1}), spring`],
    [`options[${i}].spring.t`, `thick (${i + 1})`],
    [`options[${i}].spring.h0`, `cone, free (${i + 1})`],
  ] as const;

/** What each clutch holds as a bar, against the engine and what is wanted of it. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const many = (input.options?.length ?? 0) + (step ? 0 : 1);
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Bars out={out} input={input} units={units} />
        {!step && <GivenRow face={p} fields={engine} />}
        {!step && Array.from({ length: many }, (_, i) => <Typed key={i} face={p} i={i} />)}
      </Frame>
      {rest(step ? [] : ["engine_torque", "service_factor", "options"])}
    </>
  );
}

const Typed = ({ face, i }: { face: Props; i: number }) => (
  <>
    <GivenRow face={face} fields={fields(i)} />
    {face.input.options?.[i] && <GivenRow face={face} fields={worn(i)} />}
  </>
);

const left = 170;
const width = 640;
const row = 58;

/** A bar a clutch: run-in solid, as new dashed beyond it. */
function Bars({ out, input, units }: { out: Out | undefined; input: Props["input"]; units: Units }) {
  const options = out?.options ?? [];
  const engineSays = asQuantity(input.engine_torque);
  const unit = options[0]?.uniform_wear.unit ?? "N·m";
  const torque = engineSays ? inUnit(engineSays, unit, units) : 0;
  const wanted = torque * (drawn(input.service_factor ?? 1.3) ?? 1.3);
  const most = 1.15 * Math.max(wanted, 1, ...options.map((o) => inUnit(o.uniform_pressure, unit, units)));
  const x = (t: number) => left + (width * t) / most;
  const bottom = 44 + row * Math.max(1, options.length);
  return (
    <svg
      viewBox={`0 0 900 ${bottom + 34}`}
      className="w-full"
      role="img"
      aria-label={`What each clutch holds. ${out?.says ?? ""}`}
    >
      {options.map((o, i) => (
        <Bar
          key={o.name}
          of={o}
          y={44 + row * i}
          x={x}
          unit={unit}
          units={units}
          chosen={o.name === out?.choice}
        />
      ))}
      <Mark at={x(torque)} bottom={bottom} says="engine" row={0} />
      <Mark at={x(wanted)} bottom={bottom} says="wanted" row={1} />
    </svg>
  );
}

type BarProps = {
  of: Out["options"][number];
  y: number;
  x: (t: number) => number;
  unit: string;
  units: Units;
  chosen: boolean;
};

const Bar = ({ of, y, x, unit, units, chosen }: BarProps) => {
  const [runIn, fresh] = [
    x(inUnit(of.uniform_wear, unit, units)),
    x(inUnit(of.uniform_pressure, unit, units)),
  ];
  return (
    <g>
      <text x={left - 12} y={y + 21} textAnchor="end" fontSize="15" className={chosen ? "font-semibold" : ""}>
        {of.name}
      </text>
      <rect
        x={left}
        y={y}
        width={runIn - left}
        height="32"
        className={of.verdict === "in" ? "fill-tint stroke-ink" : "fill-paper stroke-out"}
        strokeWidth={chosen ? 2.6 : 1.2}
      />
      <path d={`M${fresh} ${y}V${y + 32}`} className="stroke-quiet" strokeDasharray="4 3" />
      <text x={left + 10} y={y + 21} fontSize="14" className="font-mono">
        {sayQ(of.uniform_wear, units)}, {of.factor.toFixed(2)} times
      </text>
    </g>
  );
};

const Mark = ({ at, bottom, says, row: r }: { at: number; bottom: number; says: string; row: number }) => (
  <g>
    <path
      d={`M${at} ${r === 0 ? 30 : 34}V${bottom}`}
      className={r === 0 ? "stroke-ink" : "stroke-blue"}
      strokeWidth="1.8"
      strokeDasharray={r === 0 ? undefined : "6 4"}
    />
    <text
      x={at}
      y={r === 0 ? 24 : bottom + 20}
      textAnchor="middle"
      fontSize="13"
      className={r === 0 ? "" : "fill-blue!"}
    >
      {says}
    </text>
  </g>
);

/** The mildest clutch that holds, with what it is paid with. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  const chosen = out.options.find((o) => o.name === out.choice);
  return (
    <>
      {chosen && (
        <BigFigure
          label={`${chosen.name} holds, run in`}
          value={chosen.uniform_wear}
          verdict={chosen.verdict}
          below={`${sayQ(chosen.uniform_pressure, units)} while the faces are new`}
          units={units}
        />
      )}
      <Facts
        of={out.options.map((o) => [
          o.name,
          `clamp ${sayQ(o.clamp, units)}${o.engagement ? `, ${o.engagement}` : ""}`,
        ])}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Diameters of the lining itself, not of the disc. Clamp from the cover's data sheet.",
  wrong: "Oil on the faces halves the friction, and no clamp makes up for it.",
  why:
    "Torque is faces times friction times clamp times mean radius. " +
    "What holds far more than it must takes up harshly.",
};

export default bench<"clutch-capacity">({ calc: "clutch-capacity", Drawing, Meaning });
