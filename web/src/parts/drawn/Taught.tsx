import { scaleLinear } from "d3-scale";

/** How much backlash a millimetre of the ring brings, how sure that is, and where it is from. */
type Factor = { value: number; spread: number; from: string };

/** What this axle has taught: how much backlash a shift of the ring brings, as a line that narrows. */
export function Taught({ k }: { k: Factor }) {
  const [low, high] = [k.value - 2 * k.spread, k.value + 2 * k.spread];
  const x = scaleLinear([Math.min(0.4, low), Math.max(1.4, high)], [8, 264]);
  return (
    <div>
      <p className="text-quiet text-small">Backlash for each mm the ring moves, {k.from}</p>
      <svg
        width="272"
        height="44"
        viewBox="0 0 272 44"
        className="max-w-full"
        role="img"
        aria-label={`${k.value.toFixed(2)}, between ${low.toFixed(2)} and ${high.toFixed(2)}`}
      >
        <line x1="8" x2="264" y1="16" y2="16" className="stroke-hair" strokeWidth="1.4" />
        <rect
          x={x(low)}
          width={x(high) - x(low)}
          y="8"
          height="16"
          className="fill-blue"
          fillOpacity="0.35"
        />
        <line x1={x(k.value)} x2={x(k.value)} y1="4" y2="28" className="stroke-blue" strokeWidth="2" />
        {[low, k.value, high].map((v) => (
          <text key={v} x={x(v)} y="41" fontSize="11" textAnchor="middle" className="fill-quiet! font-mono">
            {v.toFixed(2)}
          </text>
        ))}
      </svg>
    </div>
  );
}
