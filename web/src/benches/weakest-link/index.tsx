import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";

type Out = ResultOf<"weakest-link">;
type Props = Face<"weakest-link">;

const typed = [
  ["engine_torque", "engine gives"],
  ["tyre_radius", "tyre, rolling radius"],
  ["wheel_load", "load on the wheel"],
  ["grip", "grip"],
] as const;

/** The chain from engine to wheel, each link as thick as what it has to spare. */
function Drawing(p: Props) {
  const { title, out, step, units, rest } = p;
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        {out && <Chain out={out} units={units} />}
        {!step && <GivenRow face={p} fields={typed} />}
      </Frame>
      {rest(step ? [] : typed.map(([path]) => path))}
    </>
  );
}

function Chain({ out, units }: { out: Out; units: Units }) {
  const span = 760 / out.members.length;
  return (
    <svg viewBox="0 0 900 200" className="w-full" role="img" aria-label={`The chain. ${out.says}`}>
      {out.members.map((m, i) => {
        const first = m.name === out.first_to_fail;
        // Twice what it must carry is drawn full; at its limit and beyond it is a wire.
        const thick = Math.max(3, 22 * (1 - Math.min(1, m.use / 1.4)) + 3);
        const middle = 70 + span * (i + 0.5);
        return (
          <g key={m.name}>
            <ellipse
              cx={middle}
              cy="80"
              rx={span * 0.56}
              ry="34"
              className={`fill-none ${first ? "stroke-out" : "stroke-ink"}`}
              strokeWidth={thick}
            />
            <text x={middle} y="86" textAnchor="middle" fontSize="15" className="font-mono">
              {Math.round(100 * m.use)} %
            </text>
            <text
              x={middle}
              y="146"
              textAnchor="middle"
              fontSize="14"
              className={first ? "fill-out! font-semibold" : ""}
            >
              {m.name}
            </text>
            <text x={middle} y="168" textAnchor="middle" fontSize="12" className="fill-quiet!">
              {sayQ(m.torque, units)}, by {m.limited_by}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** What breaks first, and whether it should. */
function Meaning({ out, units }: Props) {
  const first = out?.members.find((m) => m.name === out.first_to_fail);
  if (!out || !first) return null;
  return (
    <>
      <BigFigure
        label={`${first.name} breaks first; it gets`}
        value={first.torque}
        verdict={out.verdict}
        below={`${Math.round(100 * first.use)} % of what it holds`}
        units={units}
      />
      <Facts of={out.members.map((m) => [m.name, `${Math.round(100 * m.use)} %`])} />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Lowest gear, low range, locks in: that is where parts break.",
  wrong: "A rating of a catalogue is for new parts in line; a joint at an angle holds less.",
  why: "Something always breaks first. Better the part that is cheap and lies outside.",
};

export default bench<"weakest-link">({ calc: "weakest-link", Drawing, Meaning });
