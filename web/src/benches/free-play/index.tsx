import { asQuantity } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { bench, type Face } from "../bench";
import { GivenAt, Over } from "../given";

type Out = ResultOf<"free-play">;
type Props = Face<"free-play">;

/** The pedal with its play before the rod, the adjuster on the rod, and how far it is to be turned. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const places = [
    { x: 250, y: 214, shows: <GivenAt face={p} path="measured" label="free play" /> },
    { x: 400, y: 214, shows: <GivenAt face={p} path="wanted_min" label="from" /> },
    { x: 520, y: 214, shows: <GivenAt face={p} path="wanted_max" label="to" /> },
    { x: 660, y: 214, shows: <GivenAt face={p} path="adjuster_pitch" label="pitch of the adjuster" /> },
    { x: 800, y: 214, shows: <GivenAt face={p} path="ratio" label="pedal ratio" /> },
  ];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over
          width={900}
          height={290}
          says={`Pedal, rod and adjuster. ${out?.says ?? "Not measured yet"}`}
          places={places}
        >
          <g className="stroke-ink fill-none" strokeWidth="2">
            <circle cx="180" cy="40" r="7" className="fill-sheet" />
            <path d="M180 40L120 190" strokeWidth="6" strokeLinecap="round" />
            <path d="M180 40L152 198" strokeDasharray="6 5" className="stroke-blue" strokeWidth="3" />
            <path d="M150 118H560" />
            <path d="M560 96h110v44H560z" className="fill-sheet" />
            <path d="M420 100h56v36h-56zM438 100v36M458 100v36" className="fill-sheet" />
          </g>
          <Turn out={out} />
          <text x="448" y="160" fontSize="13" textAnchor="middle" className="fill-quiet!">
            adjuster
          </text>
          {asQuantity(input.measured) && (
            <text x="110" y="212" fontSize="13" textAnchor="end" className="fill-quiet!">
              play
            </text>
          )}
        </Over>
      </Frame>
      {rest(["measured", "wanted_min", "wanted_max", "adjuster_pitch", "ratio"])}
    </>
  );
}

/** How far the adjuster turns, and toward what; which way the hand turns is its thread's. */
function Turn({ out }: { out: Out | undefined }) {
  if (!out?.flats) return null;
  return (
    <text x="448" y="76" fontSize="16" textAnchor="middle" className="font-mono font-semibold fill-blue!">
      {Math.abs(out.flats).toFixed(1)} flats toward {out.flats > 0 ? "more" : "less"} play
    </text>
  );
}

/** The play between its limits, and what to turn. */
function Meaning({ out, input, units }: Props) {
  const play = asQuantity(input.measured);
  if (!out || !play) return null;
  const [min, max] = [asQuantity(input.wanted_min), asQuantity(input.wanted_max)];
  return (
    <>
      <BigFigure label="Free play at the pedal" value={play} more={-1} verdict={out.verdict} units={units} />
      <LimitLine value={play} min={min} max={max} verdict={out.verdict} units={units} />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Press the pedal by hand until it stiffens, measure there.",
  wrong: "A pedal that hangs on its spring hides the play. Pump it first.",
  why:
    "Too little play holds the bearing on its fingers and wears it out. " +
    "Too much leaves the clutch dragging.",
};

export default bench<"free-play">({ calc: "free-play", Drawing, Meaning });
