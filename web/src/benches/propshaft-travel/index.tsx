import { useState } from "react";
import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { GivenAt } from "../given";
import { Side } from "./Side";

export type Out = ResultOf<"propshaft-travel">;
type Props = Face<"propshaft-travel">;

const typed = [
  ["bump", "bump"],
  ["droop", "droop"],
  ["shaft.length", "shaft, pushed together"],
  ["shaft.slip_travel", "may be pulled by"],
  ["angle_limit_deg", "joints, degrees at most"],
] as const;

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
        <div className="flex flex-wrap gap-3 px-3.5 pb-3">
          {typed.map(([path, label]) => (
            <GivenAt key={path} face={p} path={path} label={label} />
          ))}
        </div>
      </Frame>
      {rest(["bump", "droop", "shaft", "angle_limit_deg"])}
    </>
  );
}

/** What the stroke asks of the joints, and what the shaft to be made must be. */
function Meaning({ out, input, units }: Props) {
  if (!out) return null;
  const slip = asQuantity(input.shaft?.slip_travel);
  return (
    <>
      <BigFigure
        label="Pushed together, joint to joint, at most"
        value={out.needs.pushed_together_at_most}
        verdict={out.verdict === "none" ? undefined : out.verdict}
        below={`and it must slip ${sayQ(out.needs.slip_at_least, units)}${slip && slip.value > 0 ? ` of the ${sayQ(slip, units)} it has` : ""}`}
        units={units}
      />
      <dl className="text-body">
        {[
          [
            `joint ${out.worst.angle.joint} bends`,
            `${out.worst.angle.deg.toFixed(1)}° at ${sayQ(out.worst.angle.travel, units)}`,
          ],
          ["shortest", sayQ(out.worst.shortest, units)],
          ["longest", sayQ(out.worst.longest, units)],
          ...(out.worst.clearance
            ? [
                [
                  "clear by",
                  `${sayQ(out.worst.clearance.value, units)} at ${sayQ(out.worst.clearance.travel, units)}`,
                ],
              ]
            : []),
        ].map(([name, says]) => (
          <div key={name} className="flex justify-between border-b border-hair py-1">
            <dt className="text-quiet">{name}</dt>
            <dd className="font-mono font-medium">{says}</dd>
          </div>
        ))}
      </dl>
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Level floor, wheels loaded. Measure joints, eye or pivot and axle from one mark, to the rear and up.",
  wrong: "A soft leaf winds up when it pulls: the pinion rises, and its joint bends more than drawn.",
  why: "The pinion swings with the axle. Joints bend by the slopes' difference; the slip takes what the distance changes.",
};

export default bench<"propshaft-travel">({ calc: "propshaft-travel", Drawing, Meaning });
