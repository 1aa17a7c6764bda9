import { money } from "../../model/costs";
import type { ResultOf } from "../../model/results";
import { scale } from "../../model/ways";
import { press } from "../../parts/press";

type Out = ResultOf<"decide">;
type Props = {
  options: Out["options"];
  chosen: string;
  /** As it is on record, when what is drawn is a what-if. */
  was: Out["options"] | undefined;
  deadline: number | undefined;
  at: string | undefined;
  onTouch: (id: string) => void;
};

const label = 190;
const wide = 200;
const gap = 62;
const high = 58;

/** Each way a bar for what it costs and one for the days it takes; the promise as a line. */
export function Bars({ options, chosen, was, deadline = 0, at, onTouch }: Props) {
  const cost = scale(Math.max(...options.map((o) => o.cost_p90)));
  const days = scale(Math.max(deadline, ...options.map((o) => o.days_p80)));
  const left = label + wide + gap;
  const x = (v: number) => label + (v / cost.end) * wide;
  const d = (v: number) => left + (v / days.end) * wide;
  const height = options.length * high + 34;
  return (
    <svg
      viewBox={`0 0 ${left + wide + 30} ${height}`}
      className="w-full min-w-[560px]"
      role="group"
      aria-label="Cost and time of each option"
    >
      <Axis lines={cost.lines} x={x} height={height} title="costs" />
      <Axis lines={days.lines} x={d} height={height} title="days" />
      {options.map((o, i) => (
        <Lane
          key={o.id}
          of={o}
          was={was?.find((w) => w.id === o.id)}
          y={26 + i * high}
          x={x}
          d={d}
          wide={left + wide + 26}
          best={o.id === chosen}
          on={o.id === at}
          onTouch={() => onTouch(o.id)}
        />
      ))}
      {deadline > 0 && <Promised x={d(deadline)} height={height} />}
    </svg>
  );
}

type LaneProps = {
  of: Out["options"][number];
  was: Out["options"][number] | undefined;
  y: number;
  x: (cost: number) => number;
  d: (days: number) => number;
  wide: number;
  best: boolean;
  on: boolean;
  onTouch: () => void;
};

/** One way: its costs and its days, and behind them what is on record. */
function Lane({ of: o, was, y, x, d, wide, best, on, onTouch }: LaneProps) {
  return (
    <g
      role="button"
      aria-pressed={on}
      aria-label={laneWords(o)}
      className="cursor-pointer outline-none group"
      {...press(onTouch)}
    >
      <rect
        x={1}
        y={y - 8}
        width={wide}
        height={high - 3}
        fill={on ? "var(--tint)" : "transparent"}
        className="group-focus-visible:stroke-blue stroke-transparent"
        strokeWidth={3}
      />
      <text x={8} y={y + 22} fontSize={16} fontWeight={best ? 600 : 400} fill="var(--ink)">
        {o.says}
      </text>
      {was && <Was x={x(was.cost_p10)} to={x(was.cost_p90)} y={y + 33} />}
      <Span from={x(o.cost_p10)} to={x(o.cost_p90)} half={x(o.cost_p50)} y={y} best={best} />
      {was && <Was x={d(was.days_p50)} to={d(was.days_p80)} y={y + 33} />}
      <Span from={d(o.days_p50)} to={d(o.days_p80)} half={d(o.days_p50)} y={y} best={best} />
    </g>
  );
}

function laneWords(o: Out["options"][number]) {
  const [low, half, most] = [o.cost_p10, o.cost_p50, o.cost_p90].map(Math.round);
  const costs = `costs ${low} to ${money(most ?? 0)}, most likely about ${money(half ?? 0)}`;
  return `${o.says}: ${costs}; ${days1(o.days_p50)} days, 8 in 10 within ${days1(o.days_p80)}`;
}

/** The line of the promise. */
const Promised = ({ x, height }: { x: number; height: number }) => (
  <g>
    <path d={`M${x} 18V${height - 16}`} stroke="var(--out)" strokeWidth={1.8} strokeDasharray="5 4" />
    <text x={x} y={height - 3} textAnchor="middle" fontSize={13} fill="var(--out)">
      promised
    </text>
  </g>
);

const days1 = (n: number) => n.toFixed(1);

type SpanProps = { from: number; to: number; half: number; y: number; best: boolean };

/** A bar with its half marked; the way that is cheapest stands out. */
function Span({ from, to, half, y, best }: SpanProps) {
  return (
    <>
      <rect
        x={from}
        y={y + 8}
        width={Math.max(2, to - from)}
        height={18}
        fill={best ? "var(--tint)" : "var(--sheet)"}
        stroke={best ? "var(--blue)" : "var(--ink)"}
        strokeWidth={1.6}
      />
      <path d={`M${half} ${y + 5}v24`} stroke="var(--ink)" strokeWidth={2.4} />
    </>
  );
}

function Was({ x, to, y }: { x: number; to: number; y: number }) {
  return <path d={`M${x} ${y}H${to}`} stroke="var(--quiet)" strokeWidth={1.2} />;
}

type AxisProps = { lines: readonly number[]; x: (v: number) => number; height: number; title: string };

function Axis({ lines, x, height, title }: AxisProps) {
  return (
    <g aria-hidden="true">
      {lines.map((v) => (
        <g key={v}>
          <path d={`M${x(v)} 18V${height - 16}`} stroke="var(--hair)" />
          <text x={x(v)} y={13} textAnchor="middle" fontSize={12.5} fill="var(--quiet)">
            {v === lines.at(-1) ? `${v} ${title}` : v}
          </text>
        </g>
      ))}
    </g>
  );
}
