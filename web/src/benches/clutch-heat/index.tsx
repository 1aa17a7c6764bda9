import { asQuantity, inUnit } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";
import { Facts } from "../../parts/Facts";

type Out = ResultOf<"clutch-heat">;
type Props = Face<"clutch-heat">;

const typed = [
  ["mass", "vehicle, laden"],
  ["gradient_percent", "hill, percent"],
  ["rolling_percent", "rolls at, percent"],
  ["ratio", "gear × axle"],
  ["rolling_radius", "rolling radius"],
  ["engine_speed", "engine held at"],
  ["engine_torque", "through the clutch"],
  ["plate_mass", "plate weighs"],
  ["starts", "starts"],
  ["pause", "pause between"],
  ["cooling_time", "cools to a third in"],
  ["start_temperature", "plate to begin with"],
  ["room", "round it"],
  ["limit", "at most"],
] as const;

/** The plate's temperature over the starts, a tooth each, with its limit. */
function Drawing(p: Props) {
  const { out, input, units } = p;
  return (
    <OverFields face={p} fields={typed}>
      <Teeth out={out} input={input} units={units} />
    </OverFields>
  );
}

const box = { left: 70, right: 870, top: 24, bottom: 226 };

function Teeth({ out, input, units }: { out: Out | undefined; input: Props["input"]; units: Units }) {
  const after = (out?.after_each ?? []).slice(0, 40);
  const unit = after[0]?.unit ?? "°C";
  const inUnitOf = (q: unknown) => {
    const said = asQuantity(q);
    return said && inUnit(said, unit, units);
  };
  const begin = inUnitOf(input.start_temperature) ?? (unit === "°F" ? 68 : 20);
  const limit = inUnitOf(input.limit);
  const tops = after.map((t) => t.value);
  const high = Math.max(...tops, limit ?? 0, begin + 1) * 1.08;
  const low = Math.min(begin, ...tops, 0);
  const y = (t: number) => box.bottom - ((t - low) / (high - low)) * (box.bottom - box.top);
  const step = (box.right - box.left) / Math.max(1, after.length);
  const before = (i: number) => (i === 0 ? begin : (tops[i] ?? 0) - (tops[0] ?? 0) + begin);
  const d = tops
    .map(
      (t, i) => `${i ? "L" : "M"}${box.left + i * step} ${y(before(i))}L${box.left + i * step + 14} ${y(t)}`,
    )
    .join("");
  return (
    <svg
      viewBox="0 0 900 260"
      className="w-full"
      role="img"
      aria-label={`Temperature over the starts. ${out?.says ?? ""}`}
    >
      <path
        d={`M${box.left} ${box.top}V${box.bottom}H${box.right}`}
        className="stroke-ink fill-none"
        strokeWidth="1.2"
      />
      {limit !== undefined && (
        <g>
          <path d={`M${box.left} ${y(limit)}H${box.right}`} className="stroke-out" strokeDasharray="6 4" />
          <text x={box.right} y={y(limit) - 6} textAnchor="end" fontSize="13" className="fill-out!">
            at most {Math.round(limit)} {unit}
          </text>
        </g>
      )}
      <path d={d} className="stroke-blue fill-none" strokeWidth="2.4" />
      {tops.map((t, i) => (
        <text key={i} x={box.left + i * step + 14} y={y(t) - 8} fontSize="13" className="font-mono">
          {after.length <= 12 || i === after.length - 1 ? Math.round(t) : ""}
        </text>
      ))}
      <text x={box.left} y={box.bottom + 20} fontSize="12" className="fill-quiet!">
        start after start, temperature of the plate in {unit}
      </text>
    </svg>
  );
}

const inARow = (n: number | null | undefined) =>
  typeof n === "number" && (n >= 1000 ? "without end" : `${n}`);

/** How hot, how long it slips, and how many in a row. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="Hottest"
        value={out.hottest}
        verdict={out.verdict}
        below={`${Math.round(out.rise_k)} K by each start, which slips ${out.slip_time.value.toFixed(1)} s`}
        units={units}
      />
      <Facts
        large
        of={[
          ["heat of one start", `${out.energy_kj.toFixed(0)} kJ`],
          ["at the beginning", `${out.peak_power_kw.toFixed(0)} kW`],
          ["in a row", inARow(out.in_a_row)],
        ]}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Weigh the vehicle as it pulls away, with its trailer. Weigh the pressure plate.",
  wrong: "Linings give up long before the iron does: take the lining maker's limit.",
  why: "What the engine turns faster than the wheels becomes heat; on a hill it slips longer.",
};

export default bench<"clutch-heat">({ calc: "clutch-heat", Drawing, Meaning });
