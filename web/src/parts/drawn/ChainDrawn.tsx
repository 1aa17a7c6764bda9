import type { DrawnProps } from "./index";

const box = 112;
const gap = 26;

/** What the torque goes through on its way to the wheel, link by link. */
export function ChainDrawn({ rows, typed }: DrawnProps) {
  const wide = rows.length * (box + gap) + 40;
  return (
    <div
      className="overflow-x-auto border border-hair"
      tabIndex={0}
      role="group"
      aria-label="Links as they follow"
    >
      <svg viewBox={`0 0 ${wide} 84`} style={{ width: wide }} role="img" aria-label="From gearbox to wheel">
        <path d={`M0 42H${wide}`} stroke="var(--ink)" strokeWidth={3} />
        {rows.map((_, i) => {
          const said = (name: string) => typed[`${i}.${name}`] ?? "";
          const known = said("ratio") !== "" && said("rating") !== "";
          const x = 20 + i * (box + gap);
          return (
            <g key={i}>
              <rect
                x={x}
                y={14}
                width={box}
                height={56}
                fill={known ? "var(--sheet)" : "var(--tint)"}
                stroke={known ? "var(--ink)" : "var(--blue)"}
                strokeDasharray={known ? undefined : "4 3"}
              />
              <text
                x={x + box / 2}
                y={36}
                textAnchor="middle"
                fontSize={13.5}
                fontWeight={600}
                fill="var(--ink)"
              >
                {said("name").slice(0, 16) || `link ${i + 1}`}
              </text>
              <text x={x + box / 2} y={56} textAnchor="middle" fontSize={13} fill="var(--quiet)">
                {[said("ratio") && `× ${said("ratio")}`, said("rating")].filter(Boolean).join(", ") ||
                  "not answered yet"}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
