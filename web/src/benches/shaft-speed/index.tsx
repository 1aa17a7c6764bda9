import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"shaft-speed">;
type Props = Face<"shaft-speed">;

const typed = [
  ["outer_diameter", "tube, outside"],
  ["wall", "wall"],
  ["length", "joint to joint"],
  ["top_speed", "turns at most at"],
] as const;

/** The tube, bowed as it whips, over a line of speed: allowed, critical, and what it must turn. */
function Drawing(p: Props) {
  const { out, input, units } = p;
  return (
    <OverFields face={p} fields={typed}>
      <svg
        viewBox="0 0 900 270"
        className="w-full"
        role="img"
        aria-label={`Whirling speed. ${saysOf(out, units)}`}
      >
        <path d="M110 78Q450 30 790 78" className="stroke-quiet fill-none" strokeDasharray="5 5" />
        <path d="M110 78Q450 126 790 78" className="stroke-quiet fill-none" strokeDasharray="5 5" />
        <rect x="110" y="66" width="680" height="24" className="fill-paper stroke-ink" strokeWidth="1.8" />
        <circle cx="98" cy="78" r="15" className="fill-sheet stroke-ink" strokeWidth="1.8" />
        <circle cx="802" cy="78" r="15" className="fill-sheet stroke-ink" strokeWidth="1.8" />
        {out && <Speeds out={out} top={input.top_speed} units={units} />}
      </svg>
    </OverFields>
  );
}

const saysOf = (out: Out | undefined, units: Units) =>
  out ? `Run it at ${sayQ(out.allowed, units)} at most` : "";

function Speeds({ out, top, units }: { out: Out; top: unknown; units: Units }) {
  const said = asQuantity(top);
  const turns = said && inUnit(said, out.critical.unit, units);
  const most = 1.12 * Math.max(out.critical.value, turns ?? 0);
  const x = (v: number) => 110 + (680 * v) / most;
  return (
    <g fontSize="14">
      <path d="M110 190H790" className="stroke-ink" strokeWidth="1.4" />
      <rect x="110" y="178" width={x(out.allowed.value) - 110} height="12" className="fill-in/25" />
      <path d={`M${x(out.allowed.value)} 170V198`} className="stroke-in" strokeWidth="2.4" />
      <text x={x(out.allowed.value)} y="164" textAnchor="end" className="fill-in!">
        allowed {sayQ(out.allowed, units)}
      </text>
      <path d={`M${x(out.critical.value)} 170V198`} className="stroke-out" strokeWidth="2.4" />
      <text x={x(out.critical.value)} y="218" textAnchor="middle" className="fill-out!">
        it whips {sayQ(out.critical, units)}
      </text>
      {said && turns !== undefined && (
        <g>
          <path d={`M${x(turns)} 178L${x(turns) - 8} 200H${x(turns) + 8}z`} className="fill-ink" />
          <text x={x(turns)} y="240" textAnchor="middle" className="font-mono">
            turns {sayQ(said, units)}
          </text>
        </g>
      )}
    </g>
  );
}

/** How fast it may turn, and how long such a tube may be. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="It may turn at"
        value={out.allowed}
        verdict={out.verdict}
        below={`it whips at ${sayQ(out.critical, units)}`}
        units={units}
      />
      <Facts of={[["longest for that speed", out.longest && sayQ(out.longest, units)]]} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Length from joint to joint, not of the tube. The wall by a caliper at the open end.",
  wrong: "A dent or a weight that came off makes it shake long before it whips.",
  why:
    "A tube bows by its own weight; at one speed the bow feeds itself. " +
    "A thicker wall hardly helps, a wider tube does.",
};

export default bench<"shaft-speed">({ calc: "shaft-speed", Drawing, Meaning });
