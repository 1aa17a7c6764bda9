import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"heat-fit">;
type Props = Face<"heat-fit">;

const typed = [
  ["diameter", "seat"],
  ["interference", "interference"],
  ["clearance", "clearance to slip on"],
  ["room", "cold part at"],
  ["limit", "at most"],
] as const;

/** A thermometer from the cold part to the limit, with the mark to warm the bearing to. */
function Drawing(p: Props) {
  const { out, input, units } = p;
  return (
    <OverFields face={p} fields={typed}>
      {out && <Scale out={out} room={input.room} units={units} />}
    </OverFields>
  );
}

function Scale({ out, room, units }: { out: Out; room: unknown; units: Units }) {
  const unit = out.to.unit;
  const said = asQuantity(room);
  const cold = said ? inUnit(said, unit, units) : unit === "°F" ? 68 : 20;
  const most = Math.max(out.limit.value, out.to.value);
  const x = (t: number) => 90 + (700 * (t - cold)) / Math.max(1, 1.1 * (most - cold));
  return (
    <svg viewBox="0 0 900 170" className="w-full" role="img" aria-label={`How warm. ${out.says}`}>
      <rect
        x="70"
        y="70"
        width="760"
        height="26"
        rx="13"
        className="fill-paper stroke-ink"
        strokeWidth="1.6"
      />
      <rect
        x="74"
        y="75"
        width={Math.max(4, x(out.to.value) - 74)}
        height="16"
        rx="8"
        className={out.verdict === "out" ? "fill-out" : "fill-blue"}
      />
      <path d={`M${x(out.limit.value)} 56V112`} className="stroke-out" strokeWidth="2.4" />
      <g fontSize="14">
        <text x={x(out.to.value)} y="130" textAnchor="middle" className="font-mono font-semibold fill-blue!">
          {sayQ(out.to, units)}
        </text>
        <text x={x(out.limit.value)} y="48" textAnchor="middle" className="fill-out!">
          at most {sayQ(out.limit, units)}
        </text>
        <text x="74" y="130" className="fill-quiet!">
          {Math.round(cold)} {unit}
        </text>
      </g>
    </svg>
  );
}

/** How warm, and whether the bearing stands it. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="Warm it to"
        value={out.to}
        verdict={out.verdict}
        below={`${Math.round(out.rise_k)} K above the shaft`}
        units={units}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Oven, hot plate or oil bath, never a flame. Gloves. Hold it home till it grips.",
  wrong: "Too hot draws the temper of the rings and spoils grease and cage.",
  why: "Steel grows by about a hundredth of a millimetre for each 40 mm and 20 K.",
};

export default bench<"heat-fit">({ calc: "heat-fit", Drawing, Meaning });
