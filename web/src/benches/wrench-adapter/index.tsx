import { drawn } from "../../model/number";
import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"wrench-adapter">;
type Props = Face<"wrench-adapter">;

const typed = [
  ["torque", "at the bolt"],
  ["length", "wrench, hand to square"],
  ["adapter", "adapter, square to bolt"],
  ["angle_deg", "adapter turned, °"],
] as const;

/** The wrench with its adapter, as they lie; the setting stands at the hand. */
function Drawing(p: Props) {
  const { out, input, units } = p;
  return (
    <OverFields face={p} fields={typed}>
      <Wrench out={out} angle={drawn(input.angle_deg) ?? 0} units={units} />
    </OverFields>
  );
}

const Wrench = ({ out, angle, units }: { out: Out | undefined; angle: number; units: Units }) => (
  <svg
    viewBox="0 0 900 250"
    className="w-full"
    role="img"
    aria-label={`Wrench and adapter. ${out?.says ?? ""}`}
  >
    <g className="stroke-ink fill-paper" strokeWidth="2">
      <rect x="70" y="112" width="190" height="36" rx="14" className="fill-tint" />
      <path d="M260 120H600V140H260z" />
      <circle cx="600" cy="130" r="24" />
      <g transform={`rotate(${-angle} 600 130)`}>
        <path d="M618 121H742V139H618z" />
        <path d="M770 106a26 26 0 1 0 0 48l-12-14v-20z" />
      </g>
      <rect x="592" y="122" width="16" height="16" className="fill-ink" />
    </g>
    {out && (
      <text x="165" y="96" textAnchor="middle" fontSize="17" className="font-mono font-semibold fill-blue!">
        set {sayQ(out.setting, units)}
      </text>
    )}
    <text x="600" y="190" textAnchor="middle" fontSize="12" className="fill-quiet!">
      at a right angle the setting stays as it is
    </text>
  </svg>
);

/** What to set the wrench to. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="Set the wrench to"
        value={out.setting}
        below={`the same as ${sayQ(out.setting_other_unit, units)}`}
        units={units}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Length from the middle of the grip to the square drive; the adapter from the square to the bolt.",
  wrong: "A hand further out on the grip changes the length, and the torque with it.",
  why: "The adapter lengthens the lever, so the bolt gets more than the wrench reads.",
};

export default bench<"wrench-adapter">({ calc: "wrench-adapter", Drawing, Meaning });
