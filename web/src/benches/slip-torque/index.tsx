import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { Verdict } from "../../parts/Verdict";
import { bench, type Face } from "../bench";
import { GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"slip-torque">;
type Props = Face<"slip-torque">;
type Way = "forward" | "reverse";

/** The bar on the shaft with the scale at its end; each pull typed on the side to which it was pulled. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const places: PlaceOver[] = [
    { x: 300, y: 236, shows: <GivenAt face={p} path="arm" label="bar, from shaft centre to scale" /> },
    ...pulls(p, "forward", 640),
    ...pulls(p, "reverse", 800),
  ];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over width={900} height={pullCount(p) > 3 ? 420 : 330} says={sentence(out)} places={places}>
          <g className="stroke-ink fill-none" strokeWidth="2">
            <circle cx="120" cy="160" r="58" className="fill-sheet" />
            <circle cx="120" cy="160" r="24" />
            <path d="M106 160h28M120 146v28" />
            <path d="M120 152H480V168H120Z" className="fill-sheet" />
            <path d="M480 160v-6M480 160v6" />
          </g>
          <Pull up says="forward" value={out && sayQ(out.forward, p.units)} />
          {(input.reverse?.length ?? 0) > 0 && (
            <Pull up={false} says="backward" value={out?.reverse && sayQ(out.reverse, p.units)} />
          )}
          <path d="M120 222H480" className="stroke-quiet" strokeWidth="1" strokeDasharray="4 4" />
          <text x="640" y="24" fontSize="14" textAnchor="middle" className="font-semibold">
            forward
          </text>
          <text x="800" y="24" fontSize="14" textAnchor="middle" className="font-semibold">
            backward
          </text>
        </Over>
      </Frame>
      {rest(["arm", "forward", "reverse"])}
    </>
  );
}

const pullCount = (p: Props) => Math.max(p.input.forward?.length ?? 0, p.input.reverse?.length ?? 0);

/** The pulls of one way, one below the other; a loose bench begins one more. */
function pulls(p: Props, way: Way, x: number): PlaceOver[] {
  const asked = p.step?.asked.filter((a) => a.ask.feeds?.startsWith(`${way}[`)).length ?? 0;
  const many = p.step ? asked : (p.input[way]?.length ?? 0) + 1;
  return Array.from({ length: many }, (_, i) => ({
    x,
    y: 36 + 66 * i,
    shows: <GivenAt face={p} path={`${way}[${i}]`} label={`pull ${i + 1}`} />,
  }));
}

const Pull = ({ up, says, value }: { up: boolean; says: string; value: string | undefined }) => (
  <g>
    <path
      d={up ? "M480 150V84m-7 12l7 -12l7 12" : "M480 170V214m-7 -12l7 12l7 -12"}
      className="stroke-blue fill-none"
      strokeWidth="2.4"
    />
    <text x="468" y={up ? 96 : 206} fontSize="14" textAnchor="end" className="fill-blue!">
      {says} {value}
    </text>
  </g>
);

const sentence = (out: Out | undefined) =>
  `A bar on the shaft, pulled by a scale. ${out?.says ?? "Not pulled yet"}`;

/** The torque at which it gives, both ways on one line, with the band it should be in. */
function Meaning({ out, input, units }: Props) {
  if (!out) return null;
  const [min, max] = [asQuantity(input.min), asQuantity(input.max)];
  return (
    <>
      <BigFigure
        label="It gives at"
        value={out.forward}
        uncertainty={out.uncertainty}
        verdict={out.verdict}
        units={units}
        {...(out.reverse && { below: `${sayQ(out.reverse, units)} the other way` })}
      />
      <LimitLine
        value={out.forward}
        uncertainty={out.uncertainty}
        min={min}
        max={max}
        verdict={out.verdict}
        units={units}
      />
      {out.alike === "out" && <Verdict verdict="out" small says="The two ways differ too much" />}
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold:
    "One wheel up, the other down, neutral. " +
    "Scale at the end of the bar, square to it, pulled slowly. Both ways.",
  wrong:
    "A jerk reads more. A bar at a slant reads less. A warm coupling creeps at another torque than a cold one.",
  why: "Torque is the pull times the bar. Both ways alike says it is the pack, and not something that binds.",
};

export default bench<"slip-torque">({ calc: "slip-torque", Drawing, Meaning });
