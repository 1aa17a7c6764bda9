import { useState } from "react";
import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";
import { Side } from "./Side";
import { Facts } from "../../parts/Facts";

export type Out = ResultOf<"propshaft-travel">;
type Props = Face<"propshaft-travel">;

/** What is measured of the line, from one mark, and what the shaft and its joints may. */
const rows = [
  [
    ["output.x", "first joint, back"],
    ["output.y", "up"],
    ["output.angle_deg", "slope there, degrees"],
    ["centre_joint.x", "centre joint, back"],
    ["centre_joint.y", "up"],
  ],
  [
    ["axle.x", "axle, back"],
    ["axle.y", "up"],
    ["pinion.x", "last joint, back"],
    ["pinion.y", "up"],
    ["pinion.angle_deg", "slope there, degrees"],
  ],
  [
    ["bump", "axle goes up by"],
    ["droop", "and down by"],
    ["shaft.length", "shaft pushed together"],
    ["shaft.slip_travel", "may be pulled by"],
    ["angle_limit_deg", "joints, degrees at most"],
  ],
  [
    ["plane.from.x", "plate begins, back"],
    ["plane.from.y", "up"],
    ["plane.to.x", "plate ends, back"],
    ["plane.to.y", "up"],
    ["plane.tube_radius", "half the tube"],
  ],
] as const;

const taken = [
  "output",
  "axle",
  "pinion",
  "centre_joint",
  "plane",
  "bump",
  "droop",
  "shaft",
  "angle_limit_deg",
];

/** The line from the side; a slider takes the axle through its stroke. */
function Drawing(p: Props) {
  const { title, out, input, units, rest } = p;
  const ride = out?.positions.findIndex((x) => x.travel.value === 0) ?? 0;
  const [picked, pick] = useState<number | undefined>();
  const at = Math.min(picked ?? ride, (out?.positions.length ?? 1) - 1);
  const now = out?.positions[at];
  return (
    <>
      <Frame label={title} block={p.step && [["sheet", p.step.sheet]]} wide>
        <Side out={out} input={input} now={now} units={units} />
        <div className="flex flex-wrap items-center gap-3 px-3.5 pb-3">
          <label className="flex grow items-center gap-3 text-note min-h-11">
            droop
            <input
              type="range"
              min={0}
              max={(out?.positions.length ?? 1) - 1}
              value={at}
              aria-label="Travel of the axle"
              aria-valuetext={now ? sayQ(now.travel, units) : "not worked out"}
              onChange={(e) => pick(e.target.valueAsNumber)}
              className="grow accent-blue min-h-11"
            />
            bump
          </label>
          <output className="font-mono font-medium text-body min-w-[9ch] text-right">
            {now && sayQ(now.travel, units)}
          </output>
        </div>
        {rows.map((fields) => (
          <GivenRow key={fields[0][0]} face={p} fields={fields} />
        ))}
      </Frame>
      {rest(taken)}
    </>
  );
}

/** What the stroke asks of the joints, and what the shaft to be made must be. */
function Meaning({ out, input, units }: Props) {
  if (!out) return null;
  const slip = asQuantity(input.shaft?.slip_travel);
  const { angle, shortest, longest, clearance } = out.worst;
  return (
    <>
      <BigFigure
        label="Pushed together, joint to joint, at most"
        value={out.needs.pushed_together_at_most}
        verdict={out.verdict}
        below={`and it must slip ${sayQ(out.needs.slip_at_least, units)}${slip && slip.value > 0 ? ` of the ${sayQ(slip, units)} it has` : ""}`}
        units={units}
      />
      <Facts
        large
        of={[
          [`joint ${angle.joint} bends`, `${angle.deg.toFixed(1)}° at ${sayQ(angle.travel, units)}`],
          ["shortest", sayQ(shortest, units)],
          ["longest", sayQ(longest, units)],
          ["clear by", clearance && `${sayQ(clearance.value, units)} at ${sayQ(clearance.travel, units)}`],
        ]}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Level floor, wheels loaded. Measure joints, eye or pivot and axle from one mark, to the rear and up.",
  wrong: "A soft leaf winds up when it pulls: the pinion rises, and its joint bends more than drawn.",
  why: "The pinion swings with the axle: joints bend by the slopes' difference, and the slip takes the rest.",
};

export default bench<"propshaft-travel">({ calc: "propshaft-travel", Drawing, Meaning });
