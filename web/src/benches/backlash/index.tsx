import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { begun } from "../../model/words";
import { BigFigure } from "../../parts/BigFigure";
import { AxleCut } from "../../parts/drawn/AxleCut";
import { packOf } from "../../parts/drawn/packs";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { LimitLine } from "../../parts/LimitLine";
import { Verdict } from "../../parts/Verdict";
import { type AtStep, bench, type Face } from "../bench";
import { GivenAt, Laid, type PlaceOver } from "../given";
import { Ring, roundRing } from "./Ring";
import { Taught } from "../../parts/drawn/Taught";
import { Facts } from "../../parts/Facts";

export type Out = ResultOf<"backlash">;
type Props = Face<"backlash">;

/** The axle cut open with its side packs, and the ring with the places at which the dial stood. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const typed = !step && p.onInput !== undefined;
  const readings = readOf(p);
  return (
    <>
      <Frame label={title} block={step && fromStep(step)} wide>
        <div className="relative">
          <AxleCut
            left={packOf(input.left, proposed(out, "left"), units)}
            right={packOf(input.right, proposed(out, "right"), units)}
            ring={input.ring_side === "right" ? "right" : "left"}
            move={moveOf(out)}
            label={sentence(out, readings, units)}
          >
            <Ring
              readings={readings}
              places={Math.max(4, step?.wants ?? 0, readings.length)}
              mean={out && sayQ(out.mean, units, 1)}
              out={out?.verdict === "out"}
              units={units}
              typed={typed}
            />
          </AxleCut>
          {typed && <Laid width={640} height={300} places={typedAt(p)} />}
        </div>
      </Frame>
      {rest(typed ? ["readings", "left", "right"] : [])}
    </>
  );
}

const readOf = ({ step, input }: Props) =>
  (step?.readings ?? input.readings ?? []).flatMap((r) => asQuantity(r) ?? []);

/** Where a loose bench is told: the dial's places round the ring, and both packs. */
const typedAt = (p: Props): PlaceOver[] => [
  ...roundRing(Math.max(4, p.input.readings?.length ?? 0)).map(({ x, y }, i) => ({
    x,
    y: y - 11,
    shows: <GivenAt face={p} path={`readings[${i}]`} label={`place ${i + 1}`} bare />,
  })),
  { x: 240, y: 4, shows: <GivenAt face={p} path="right" label="right pack" /> },
  { x: 240, y: 250, shows: <GivenAt face={p} path="left" label="left pack" /> },
];

const fromStep = (step: AtStep) =>
  [
    ["sheet", step.sheet],
    ["gauge", step.gauge ?? "none chosen"],
  ] as const;

/** A pack is proposed only when the ring has to go. */
const proposed = (out: Out | undefined, side: "left" | "right") =>
  out && out.verdict !== "in" ? out[side] : undefined;

const moveOf = (out: Out | undefined) =>
  !out || out.verdict === "in" || out.shift.value === 0 ? 0 : out.shift.value < 0 ? -1 : 1;

function sentence(out: Out | undefined, readings: Quantity[], units: Units) {
  const read = readings.map((r) => sayQ(r, units)).join(", ");
  if (!out) return `Axle cut open${read ? `, backlash read ${read}` : ", not measured yet"}`;
  return `Axle cut open; backlash read ${read}; mean ${sayQ(out.mean, units, 1)}. ${out.says}`;
}

/** The mean against its limits, how it varies round the ring, and the next move. */
function Meaning({ out, input, step, units }: Props) {
  if (!out) return null;
  const limits = step?.limits ?? { min: asQuantity(input.target_min), max: asQuantity(input.target_max) };
  return (
    <>
      <BigFigure
        label={step?.preview ? "Backlash with this reading" : "Backlash, mean round the ring"}
        value={out.mean}
        uncertainty={out.uncertainty}
        more={1}
        below={`varies by ${sayQ(out.variation, units)} round the ring`}
        verdict={out.verdict}
        units={units}
      />
      <LimitLine
        value={out.mean}
        uncertainty={out.uncertainty}
        min={limits.min}
        max={limits.max}
        verdict={out.verdict}
        units={units}
      />
      {out.variation_verdict === "out" && (
        <Verdict verdict="out" small says="Varies too much round the ring" />
      )}
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <Next out={out} units={units} />
      <Taught k={out.k} />
      <Method out={out} help={help} />
    </>
  );
}

const sides = ["left", "right"] as const;

/** The move, the packs it takes, and what the dial should then say. */
function Next({ out, units }: { out: Out; units: Units }) {
  const moves = out.verdict !== "in" && out.left && out.right;
  return (
    <div className="border-t border-ink pt-3">
      <h3 className="text-head">Next</h3>
      <p>{begun(out.says)}.</p>
      {moves && (
        <>
          <Facts of={sides.map((side) => [`${side} pack`, out[side] && sayQ(out[side], units)])} />
          <p className="mt-2 text-note">
            Right in {Math.min(99, Math.round(100 * out.chance))} of 100 cases; both packs together stay, and
            so does the preload.
          </p>
        </>
      )}
    </div>
  );
}

const help: HelpText = {
  hold:
    "Plunger square to a tooth's flank, as far out as the tooth goes. " +
    "Hold the pinion still, rock the ring from stop to stop, at four places round.",
  wrong: "A plunger at a slant reads too little. A pinion that turns along reads too much.",
  why:
    "The ring moves along its own axis. How much that changes the backlash depends on the teeth's angle; " +
    "this axle's own assemblies tell it best.",
};

export default bench<"backlash">({ calc: "backlash", Drawing, Meaning });
