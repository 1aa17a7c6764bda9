import { sayNumber } from "../../model/quantity";
import type { Quantity, Units } from "../../model/types";

type Props = {
  readings: Quantity[];
  places: number;
  mean: string | undefined;
  out: boolean;
  units: Units;
  typed: boolean;
};

const [cx, cy, r] = [510, 150, 58];

/** Where the figures of the places stand, in the order of turning. */
export const roundRing = (places: number) =>
  Array.from({ length: places }, (_, i) => {
    const t = (2 * Math.PI * i) / places;
    return { x: cx + Math.sin(t) * (r + 40), y: cy - Math.cos(t) * (r + 40) };
  });

/** The ring seen from its teeth, and what the dial read at each place in the order of turning. */
export function Ring({ readings, places, mean, out, units, typed }: Props) {
  const turn = (i: number) => (2 * Math.PI * i) / places;
  return (
    <g>
      <circle cx={cx} cy={cy} r={r} className="fill-sheet stroke-ink" strokeWidth="1.4" />
      {Array.from({ length: 36 }, (_, i) => (
        <line
          key={i}
          x1={cx}
          x2={cx}
          y1={cy - r}
          y2={cy - r + 6}
          className="stroke-quiet"
          strokeWidth="0.8"
          transform={`rotate(${10 * i} ${cx} ${cy})`}
        />
      ))}
      <text x={cx} y={cy - 8} fontSize="12" textAnchor="middle" className="fill-quiet!">
        mean
      </text>
      <text
        x={cx}
        y={cy + 12}
        fontSize="16"
        textAnchor="middle"
        className={`font-mono font-semibold ${out ? "fill-out!" : ""}`}
      >
        {mean ?? "–"}
      </text>
      {Array.from({ length: places }, (_, i) => {
        const q = readings[i];
        const [s, c] = [Math.sin(turn(i)), Math.cos(turn(i))];
        return (
          <g key={i}>
            <line
              x1={cx + s * (r - 4)}
              y1={cy - c * (r - 4)}
              x2={cx + s * (r + 10)}
              y2={cy - c * (r + 10)}
              className={i === readings.length ? "stroke-blue" : "stroke-ink"}
              strokeWidth={i === readings.length ? 3 : 1.4}
            />
            <text
              x={cx + s * (r + 36)}
              y={cy - c * (r + 24) + 5}
              fontSize="15"
              textAnchor="middle"
              className={`font-mono ${i === readings.length ? "fill-blue!" : ""}`}
            >
              {typed ? "" : q ? sayNumber(q, units) : i === readings.length ? "next" : "·"}
            </text>
          </g>
        );
      })}
    </g>
  );
}
