import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";
import { Paper, thickness } from "./Paper";

export type Out = ResultOf<"viscosity">;
type Props = Face<"viscosity">;

const sheet = [
  ["points[0].at", "data sheet, at"],
  ["points[0].viscosity", "so thick"],
  ["points[1].at", "and at"],
  ["points[1].viscosity", "so thick then"],
] as const;

const temperatures = ["coldest start", "running", "also at"];

/** Another oil by its data sheet, beside the first. */
const other = (i: number) =>
  [
    [`others[${i}].name`, `other oil ${i + 1}`],
    [`others[${i}].points[0].at`, `at (${i + 1})`],
    [`others[${i}].points[0].viscosity`, `thick (${i + 1})`],
    [`others[${i}].points[1].at`, `and at (${i + 1})`],
    [`others[${i}].points[1].viscosity`, `thick then (${i + 1})`],
  ] as const;

/** The double-log paper: each oil a straight line, each temperature asked a vertical. */
function Drawing(p: Props) {
  const { title, out, input, units, rest } = p;
  const asked = Array.from(
    { length: (input.at?.length ?? 0) + 1 },
    (_, i) => [`at[${i}]`, temperatures[i] ?? `also at (${i + 1})`] as const,
  );
  return (
    <>
      <Frame label={title} block={p.step && [["sheet", p.step.sheet]]} wide>
        <Paper out={out} at={input.at ?? []} units={units} />
        <GivenRow face={p} fields={sheet} />
        <GivenRow face={p} fields={asked} />
        {Array.from({ length: Math.min(6, (input.others?.length ?? 0) + 1) }, (_, i) => (
          <GivenRow key={i} face={p} fields={other(i)} />
        ))}
      </Frame>
      {rest(["points", "at", "others"])}
    </>
  );
}

/** The grade it comes to, and how thick each oil is where it was asked. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="At 100 °C"
        value={{ value: out.at_100_mm2_s, unit: "mm²/s" }}
        below={gradeWords(out)}
        units={units}
      />
      <Thickness name="this oil" of={out.values} units={units} />
      {(out.others ?? []).map((x) => (
        <Thickness
          key={x.name}
          name={`${x.name}, ${x.sae_j306_grade ? `grade ${x.sae_j306_grade}` : "no gear grade"}`}
          of={x.values}
          units={units}
        />
      ))}
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <Method out={out} help={help} />
    </>
  );
}

/** What it would be called as a gear oil and as an engine oil: two scales. */
const gradeWords = (out: Out) =>
  [
    out.sae_j306_grade ? `gear oil ${out.sae_j306_grade}` : "thinner than any gear oil",
    out.as_engine_oil && `as an engine oil ${out.as_engine_oil}`,
  ]
    .filter(Boolean)
    .join(", ");

const Thickness = ({ name, of, units }: { name: string; of: Out["values"]; units: Units }) => (
  <>
    <h3 className="text-head mt-3">{name}</h3>
    <Facts of={of.map((v) => [sayQ(v.at, units), `${thickness(v)} mm²/s`])} />
  </>
);

const help: HelpText = {
  hold: "Two points of the data sheet, at 40 and 100 °C. Both of the same oil, not of its family.",
  wrong: "Below its pour point an oil no longer flows: the line goes on, the oil does not.",
  why: "Synchronisers need it thin enough to wipe off when cold, gears thick enough when hot.",
};

export default bench<"viscosity">({ calc: "viscosity", Drawing, Meaning });
