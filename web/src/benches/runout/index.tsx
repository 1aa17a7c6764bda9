import { drawn } from "../../model/number";
import { asQuantity, inUnit, say as sayQ, sayClock } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { atClock, onClock } from "../../parts/drawn/clock";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { GivenAt, Over, type PlaceOver } from "../given";
import { Facts } from "../../parts/Facts";

type Out = ResultOf<"runout">;
type Props = Face<"runout">;

const [cx, cy, r] = [300, 190, 110];

/** The circle the dial turned on, what it read round it, and where the centre of the bore stands. */
function Drawing(p: Props) {
  const { title, out, input, rest } = p;
  const readings = input.readings ?? [];
  const few = readings.length <= 9;
  return (
    <>
      <Frame label={title} block={[["seen from", "behind the engine"]]} wide>
        <Over
          width={600}
          height={380}
          says={out ? `Centre ${sentence(out, p)}` : "Not read yet"}
          places={few ? typedAt(p) : []}
        >
          <circle cx={cx} cy={cy} r={r} className="fill-sheet stroke-ink" strokeWidth="1.4" />
          {Array.from({ length: 12 }, (_, i) => (
            <line
              key={i}
              x1={cx + atClock(i, r - 7).x}
              y1={cy + atClock(i, r - 7).y}
              x2={cx + atClock(i, r).x}
              y2={cy + atClock(i, r).y}
              className="stroke-ink"
            />
          ))}
          <path d={`M${cx - r} ${cy}h${2 * r}M${cx} ${cy - r}v${2 * r}`} className="stroke-hair" />
          {!few && <Polar p={p} />}
          {out && <Centre out={out} p={p} />}
        </Over>
      </Frame>
      {rest(few ? ["readings"] : [])}
    </>
  );
}

const sentence = (out: Out, { units }: Props) =>
  `off by ${sayQ(out.offset.magnitude, units)} toward ${sayClock(out.offset.clock)}`;

/** Every reading at its place of the clock; a second turn outward. */
function typedAt(p: Props): PlaceOver[] {
  const clocks = (p.input.readings ?? []).map((x) => drawn(x.clock) ?? 12);
  return onClock(clocks, r + 44, { beside: 76, below: 40 }).map(({ x, y, says }, i) => ({
    x: cx + x,
    y: cy + y - 16,
    shows: <GivenAt face={p} path={`readings[${i}].reading`} label={says} bare />,
  }));
}

/** A whole turn: what was read as a line round the circle. */
function Polar({ p: { input, units } }: { p: Props }) {
  const read = (input.readings ?? []).flatMap(({ clock, reading }) => {
    const q = asQuantity(reading);
    return q ? [{ clock: drawn(clock) ?? 12, value: inUnit(q, "mm", units) }] : [];
  });
  const values = read.map((x) => x.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const points = read.map(({ clock, value }) => {
    const at = atClock(clock, r + 14 + (40 * (value - low)) / (high - low || 1));
    return `${cx + at.x},${cy + at.y}`;
  });
  return <polyline points={points.join(" ")} className="fill-none stroke-blue" strokeWidth="2" />;
}

/** The centre, drawn far out, with how sure it is. */
function Centre({ out, p }: { out: Out; p: Props }) {
  const at = atClock(out.offset.clock, 46);
  const sure = out.uncertainty
    ? (46 * inUnit(out.uncertainty, out.offset.magnitude.unit, p.units)) / (out.offset.magnitude.value || 1)
    : 0;
  return (
    <g>
      <line x1={cx} y1={cy} x2={cx + at.x} y2={cy + at.y} className="stroke-out" strokeWidth="2" />
      <circle cx={cx + at.x} cy={cy + at.y} r={Math.min(60, sure)} className="fill-out/15" />
      <circle cx={cx + at.x} cy={cy + at.y} r="4" className="fill-out" />
      <text x={cx + at.x + 8} y={cy + at.y - 8} fontSize="14" className="font-semibold">
        {sayQ(out.offset.magnitude, p.units)}
      </text>
    </g>
  );
}

/** How far off and which way, and what the readings say of each other. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  const checks = [
    ["total reading", out.tir],
    ["back at the start within", out.closure],
    ["opposites agree within", out.opposites],
    ["turns agree within", out.repeat],
  ] as const;
  return (
    <>
      <BigFigure
        label="The centre is off by"
        value={out.offset.magnitude}
        uncertainty={out.uncertainty}
        below={`toward ${sayClock(out.offset.clock)}`}
        units={units}
      />
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <Facts of={checks.map(([name, q]) => [name, q && sayQ(q, units)])} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold:
    "Base where it turns with the shaft, plunger square on the surface. " +
    "Zero at 12, turn by hand, read at least at 3, 6 and 9.",
  wrong:
    "A base that creeps does not come back to nought at 12. " +
    "A scratched surface shows as opposites that do not agree.",
  why: "What a dial swings through is twice what the centre is off.",
};

export default bench<"runout">({ calc: "runout", Drawing, Meaning });
