type Props = { y: number; heights: (number | undefined)[]; high: number | undefined };

/** How far each fingertip stands above the lowest, drawn twenty times larger. */
export function Fingers({ y, heights, high }: Props) {
  const known = heights.filter((h) => h !== undefined);
  if (known.length < 2) return null;
  const low = Math.min(...known);
  return (
    <g>
      {heights.map((h, i) =>
        h === undefined ? null : (
          <path
            key={i}
            d={`M${75 + 120 * (i % 7)} ${y}v${-4 - Math.min(60, 20 * (h - low))}`}
            className={i + 1 === high ? "stroke-out" : "stroke-ink"}
            strokeWidth="8"
          />
        ),
      )}
    </g>
  );
}
