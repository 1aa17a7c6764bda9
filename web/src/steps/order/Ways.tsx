import { money } from "../../model/costs";
import { weekday } from "../../model/moment";
import type { StepOf } from "../../model/types";
import { scale } from "../../model/ways";
import { press } from "../../parts/press";

type Way = StepOf<"order">["ways"][number];

const label = 250;
const wide = 250;
const high = 60;

type Props = {
  ways: readonly Way[];
  way: string;
  upTo: number | undefined;
  onPick: (id: string) => void;
};

/** Each way of buying a bar of its cost, with the day all is here; the sum the customer agreed to as a line. */
export function Ways({ ways, way, upTo, onPick }: Props) {
  const most = Math.max(1, ...ways.map((w) => w.sum));
  const { end } = scale(upTo !== undefined && upTo < 4 * most ? Math.max(most, upTo) : most);
  const x = (v: number) => label + (v / end) * wide;
  const line = upTo !== undefined && upTo <= end ? upTo : undefined;
  const height = ways.length * high + (line === undefined ? 10 : 28);
  return (
    <svg
      viewBox={`0 0 ${label + wide + 220} ${height}`}
      className="w-full min-w-[560px]"
      role="radiogroup"
      aria-label="Ways of buying"
    >
      {ways.map((w, i) => (
        <Lane key={w.id} way={w} y={4 + i * high} x={x} taken={w.id === way} onPick={() => onPick(w.id)} />
      ))}
      {line !== undefined && (
        <g aria-hidden="true">
          <path
            d={`M${x(line)} 2V${height - 18}`}
            stroke="var(--out)"
            strokeWidth={1.6}
            strokeDasharray="5 4"
          />
          <text x={x(line)} y={height - 4} textAnchor="middle" fontSize={13} fill="var(--out)">
            customer approved up to {money(line)}
          </text>
        </g>
      )}
    </svg>
  );
}

type LaneProps = { way: Way; y: number; x: (sum: number) => number; taken: boolean; onPick: () => void };

/** One way: its bar, its sum and its day. */
const Lane = ({ way: w, y, x, taken, onPick }: LaneProps) => (
  <g
    role="radio"
    aria-checked={taken}
    data-id={w.id}
    aria-label={`${w.says}: ${money(w.sum)}${w.open ? `, ${w.open} without a price or date` : ""}, here ${w.day}`}
    className="cursor-pointer outline-none group"
    {...press(onPick)}
  >
    <rect
      x={1}
      y={y}
      width={label + wide + 216}
      height={high - 4}
      className="fill-transparent stroke-transparent group-focus-visible:stroke-blue"
      strokeWidth={3}
    />
    <text x={8} y={y + 33} fontSize={16} fontWeight={taken ? 600 : 400} fill="var(--ink)">
      {w.says}
    </text>
    <rect
      x={x(0)}
      y={y + 18}
      width={Math.max(2, x(w.sum) - x(0))}
      height={19}
      fill={taken ? "var(--tint)" : "none"}
      stroke={taken ? "var(--blue)" : "var(--ink)"}
      strokeWidth={1.4}
    />
    <text x={x(w.sum) + 10} y={y + 33} fontSize={15} className="font-mono" fill="var(--ink)">
      {money(w.sum)}
    </text>
    <text
      x={label + wide + 212}
      y={y + 33}
      textAnchor="end"
      fontSize={14.5}
      fill={w.in_time ? "var(--quiet)" : "var(--out)"}
    >
      {w.open > 0 ? `${w.open} without a price` : `${weekday(w.day)} ${w.day}`}
      {!w.in_time && ", late"}
    </text>
  </g>
);
