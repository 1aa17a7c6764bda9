import { scaleLinear } from "d3-scale";
import { asQuantity, inUnit } from "../../model/quantity";
import type { InputOf } from "../../model/results";
import type { Units } from "../../model/types";
import type { Out } from ".";

const box = { left: 52, right: 452, top: 34, bottom: 262 };

/** The saw-tooth of shifting through the gears at the engine's limit, each gear a ray through the origin. */
export function Rays({
  out,
  input,
  units,
}: {
  out: Out | undefined;
  input: Partial<InputOf<"gearing">>;
  units: Units;
}) {
  const gears = out ? out.gears.filter((g) => g.range === out.gears[0]?.range) : [];
  const limit = rpmOf(input.engine_limit, units) ?? 5000;
  const unit = gears[0]?.per_1000_rpm.unit ?? "km/h";
  const top = (g: Out["gears"][number]) => (g.per_1000_rpm.value * limit) / 1000;
  const fastest = Math.max(...gears.map(top), 1);
  const x = scaleLinear([0, fastest * 1.02], [box.left, box.right]);
  const y = scaleLinear([0, limit * 1.12], [box.bottom, box.top]);
  const shifts = gears.slice(1).map((g, i) => {
    const speed = top(gears[i] ?? g);
    return { speed, after: (speed / g.per_1000_rpm.value) * 1000 };
  });
  return (
    <svg viewBox="0 0 470 300" className="w-full max-h-[320px]" role="img" aria-label={describe(gears, unit)}>
      <Axes x={x} y={y} unit={unit} />
      <line
        x1={box.left}
        x2={box.right}
        y1={y(limit)}
        y2={y(limit)}
        className="stroke-quiet"
        strokeWidth="1"
        strokeDasharray="2 3"
      />
      <text x={box.left + 6} y={y(limit) - 5} fontSize="12" className="fill-quiet!">
        change up at {Math.round(limit)}
      </text>
      {gears.map((g, i) => (
        <Ray key={g.gear} name={g.gear} from={shifts[i - 1]} end={top(g)} {...{ x, y, limit }} />
      ))}
      {shifts.map((s, i) => (
        <Drop key={gears[i + 1]?.gear} at={s} {...{ x, y, limit }} />
      ))}
    </svg>
  );
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;
type On = { x: Scale; y: Scale; limit: number };
type Shift = { speed: number; after: number };

/** One gear: its whole ray thin, what is driven of it from the shift before heavy. */
const Ray = ({
  name,
  from,
  end,
  x,
  y,
  limit,
}: On & { name: string; from: Shift | undefined; end: number }) => (
  <g>
    <line x1={x(0)} y1={y(0)} x2={x(end)} y2={y(limit)} className="stroke-quiet" strokeWidth="0.9" />
    <line
      x1={x(from?.speed ?? 0)}
      y1={y(from?.after ?? 0)}
      x2={x(end)}
      y2={y(limit)}
      className="stroke-ink"
      strokeWidth="2.4"
    />
    <text x={x(end)} y={box.top - 8} fontSize="13" textAnchor="middle">
      {name}
    </text>
  </g>
);

/** What the engine falls by at a shift. */
const Drop = ({ at: s, x, y, limit }: On & { at: Shift }) => (
  <g>
    <line
      x1={x(s.speed)}
      x2={x(s.speed)}
      y1={y(limit)}
      y2={y(s.after)}
      className="stroke-ink"
      strokeWidth="2.4"
    />
    <text x={x(s.speed) + 6} y={y(s.after) - 4} fontSize="12" style={{ fontFamily: "var(--font-mono)" }}>
      −{Math.round(limit - s.after)}
    </text>
  </g>
);

function Axes({ x, y, unit }: { x: Scale; y: Scale; unit: string }) {
  return (
    <g>
      {y.ticks(5).map((t) => (
        <g key={t}>
          <line x1={box.left} x2={box.right} y1={y(t)} y2={y(t)} className="stroke-hair" strokeWidth="0.9" />
          <text x={box.left - 6} y={y(t) + 4} textAnchor="end" fontSize="12" className="fill-quiet!">
            {t}
          </text>
        </g>
      ))}
      {x.ticks(7).map((t) => (
        <g key={t}>
          <line
            x1={x(t)}
            x2={x(t)}
            y1={box.bottom}
            y2={box.bottom + 5}
            className="stroke-ink"
            strokeWidth="1.2"
          />
          <text x={x(t)} y={box.bottom + 19} textAnchor="middle" fontSize="12" className="fill-quiet!">
            {t}
          </text>
        </g>
      ))}
      <path
        d={`M${box.left} ${box.top}V${box.bottom}H${box.right}`}
        className="fill-none stroke-ink"
        strokeWidth="1.3"
      />
      <text x={box.left - 6} y={box.top - 8} textAnchor="end" fontSize="12" className="fill-quiet!">
        rpm
      </text>
      <text x={box.right} y={box.bottom + 34} textAnchor="end" fontSize="12" className="fill-quiet!">
        {unit}
      </text>
    </g>
  );
}

function rpmOf(said: unknown, units: Units) {
  const q = asQuantity(said);
  return q && inUnit(q, "rpm", units);
}

function describe(gears: Out["gears"], unit: string) {
  if (gears.length === 0) return "Road speed against engine speed: no figures yet";
  return `Road speed against engine speed: ${gears.map((g) => `${g.gear} ${g.per_1000_rpm.value.toFixed(1)} ${unit} per 1000 rpm`).join(", ")}`;
}
