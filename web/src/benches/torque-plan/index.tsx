import { sayNumber } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"torque-plan">;
type Props = Face<"torque-plan">;

const typed = [
  ["bolts", "bolts on one circle"],
  ["torque", "torque"],
  ["angle_deg", "then turned on, °"],
  ["wrench.unit", "wrench reads"],
  ["wrench.step", "in steps of"],
] as const;

/** The bolts as they lie, each with its place in the order, the way from one to the next drawn. */
function Drawing(p: Props) {
  const { out } = p;
  return (
    <OverFields face={p} fields={typed}>
      {out && <Bolts out={out} />}
    </OverFields>
  );
}

function Bolts({ out }: { out: Out }) {
  const reach = Math.max(1e-9, ...out.bolts.map((b) => Math.max(Math.abs(b.x), Math.abs(b.y))));
  const place = (n: number) => {
    const b = out.bolts.find((bolt) => bolt.number === n);
    return { x: 450 + (150 * (b?.x ?? 0)) / reach, y: 190 - (150 * (b?.y ?? 0)) / reach };
  };
  const way = out.order.map(place);
  return (
    <svg
      viewBox="0 0 900 380"
      className="w-full max-h-[420px]"
      role="img"
      aria-label={`Order of the bolts: ${out.order.join(", ")}`}
    >
      <path
        d={way.map(({ x, y }, i) => `${i ? "L" : "M"}${x} ${y}`).join("")}
        className="stroke-blue fill-none"
        strokeWidth="1"
        strokeDasharray="5 4"
      />
      {way.map(({ x, y }, i) => (
        <g key={out.order[i]}>
          <circle
            cx={x}
            cy={y}
            r="20"
            className={i === 0 ? "fill-tint stroke-ink" : "fill-sheet stroke-ink"}
            strokeWidth="2"
          />
          <text x={x} y={y + 6} textAnchor="middle" fontSize="17" className="font-mono font-semibold">
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** A round a line, with what the wrench is set to. */
function Meaning({ out, units }: Props) {
  const last = out?.passes.findLast((x) => !x.check);
  if (!out || !last) return null;
  return (
    <>
      <BigFigure
        label={`${out.bolts.length} bolts, last setting`}
        value={last.setting}
        below={
          out.pattern === "spiral" ? "from the middle outwards" : "each as far as can be from those before"
        }
        units={units}
      />
      <Facts of={out.passes.map((x) => [x.name, settingOf(x, units)])} />
      <Method out={out} help={help} />
    </>
  );
}

const settingOf = ({ setting, angle_deg: angle }: Out["passes"][number], units: Units) =>
  angle ? `${angle}° on` : `${sayNumber(setting, units)} ${setting.unit}`;

const help: HelpText = {
  hold: "Threads clean, faces clean. All in by hand before the first is tightened.",
  wrong: "A bolt that turns on the check round had sat on burr, dirt or sealant.",
  why: "Tightened round in a circle, the first bolts go slack as the joint closes.",
};

export default bench<"torque-plan">({ calc: "torque-plan", Drawing, Meaning });
