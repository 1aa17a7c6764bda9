import type { PracticeRun } from "../../data/practice";

const size = { width: 420, height: 120, left: 34, bottom: 96 };

type Props = { name: string; kind: string; runs: readonly PracticeRun[] };

/** A person's runs from the first to the latest: the minutes each took; open marks did not end right. */
export function Curve({ name, kind, runs }: Props) {
  const most = Math.max(...runs.map((r) => r.minutes), 1);
  const x = (i: number) => size.left + ((size.width - size.left - 16) * i) / Math.max(1, runs.length - 1);
  const y = (minutes: number) => size.bottom - ((size.bottom - 14) * minutes) / most;
  const right = runs.filter((r) => r.right).length;
  const says = `${name}, ${kind}: ${right} of ${runs.length} ended right`;
  return (
    <figure>
      <figcaption className="text-note">
        <b className="font-semibold">{name}</b>, {kind}
        <span className="text-quiet">
          : {right} of {runs.length} ended right
        </span>
      </figcaption>
      <svg viewBox={`0 0 ${size.width} ${size.height}`} className="w-full" role="img" aria-label={says}>
        <path
          d={`M${size.left} 8V${size.bottom}H${size.width}`}
          className="stroke-ink fill-none"
          strokeWidth="1"
        />
        <text x={size.left - 6} y="18" fontSize="12" textAnchor="end" className="fill-quiet!">
          {Math.round(most)}
        </text>
        <text x={size.left} y={size.bottom + 18} fontSize="12" className="fill-quiet!">
          minutes, run by run
        </text>
        <polyline
          points={runs.map((r, i) => `${x(i)},${y(r.minutes)}`).join(" ")}
          className="stroke-quiet fill-none"
          strokeWidth="1.4"
        />
        {runs.map((r, i) => (
          <circle
            key={r.at}
            cx={x(i)}
            cy={y(r.minutes)}
            r="5"
            className={r.right ? "fill-in stroke-in" : "fill-sheet stroke-out"}
            strokeWidth="2"
          />
        ))}
      </svg>
    </figure>
  );
}
