import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Finding } from "../../parts/Finding";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"bolt">;
type Props = Face<"bolt">;

const typed = [
  ["diameter", "thread, outside"],
  ["pitch", "pitch"],
  ["class", "class on the head"],
  ["lubrication", "threads are"],
  ["grip", "grips through"],
  ["torque", "tightened with"],
] as const;

/** The bolt in its joint, stretched; beside it how much of what it can bear it is pulled with. */
function Drawing(p: Props) {
  const { out, units } = p;
  return (
    <OverFields face={p} fields={typed}>
      <Joint out={out} units={units} />
    </OverFields>
  );
}

const Joint = ({ out, units }: { out: Out | undefined; units: Units }) => (
  <svg viewBox="0 0 900 250" className="w-full" role="img" aria-label={out ? `Bolt ${out.size}` : "Bolt"}>
    <g className="stroke-ink" strokeWidth="1.8">
      <path d="M150 90H420V140H150zM150 140H420V210H150z" className="fill-paper" />
      <path d="M245 50H325V90H245zM265 90H305V205H265z" className="fill-tint" />
      <path d="M265 150l40 8m-40 8l40 8m-40 8l40 8m-40 8l40 8" />
    </g>
    {out && <Pull out={out} units={units} />}
  </svg>
);

/** Along the bar, for a share of the proof load. */
const x = (share: number) => 500 + 300 * Math.min(1.15, share);

function Pull({ out, units }: { out: Out; units: Units }) {
  return (
    <g fontSize="14">
      <text x="285" y="38" textAnchor="middle" className="font-semibold">
        {out.size}
      </text>
      <rect x="500" y="110" width="345" height="26" className="fill-paper stroke-ink" />
      <rect
        x="500"
        y="110"
        width={x(out.share_of_proof) - 500}
        height="26"
        className={out.share_of_proof > 1 ? "fill-out" : "fill-blue"}
      />
      <path d="M800 100V146" className="stroke-out" strokeWidth="2.2" />
      <text x="800" y="92" textAnchor="middle" className="fill-out!">
        stretches for good {sayQ(out.proof_load, units)}
      </text>
      <text x="500" y="166" className="font-mono">
        pulls {sayQ(out.clamp, units)}, {Math.round(100 * out.share_of_proof)} %
      </text>
    </g>
  );
}

/** The torque, and what it does. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label={`${out.size}, by calculation: the sheet goes first`}
        value={out.torque}
        below={`the same as ${sayQ(out.torque_other_unit, units)}`}
        units={units}
      />
      <Facts
        of={[
          ["clamps with", sayQ(out.clamp, units)],
          ["factor K", out.k.toFixed(2)],
          ["from snug, turn", out.turn_from_snug_deg && `${Math.round(out.turn_from_snug_deg)}°`],
        ]}
      />
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Read the class off the head, the pitch off a gauge. Threads clean, oiled as you say.",
  wrong: "Oil on a thread meant dry pulls far more at the same torque.",
  why: "Nine tenths of the torque goes into friction, so how the thread is oiled matters most.",
};

export default bench<"bolt">({ calc: "bolt", Drawing, Meaning });
