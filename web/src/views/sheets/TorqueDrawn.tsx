import { has } from "../../model/json";

/** The bolts of a group on their circle, numbered as they are counted. */
export function TorqueDrawn({ group }: { group: unknown }) {
  const bolts = has(group, "bolts") && typeof group.bolts === "number" ? Math.min(group.bolts, 24) : 0;
  if (bolts < 2) return null;
  return (
    <svg viewBox="-21 -21 42 42" className="size-11" aria-hidden="true">
      <circle r="15" fill="none" stroke="var(--hair)" />
      {Array.from({ length: bolts }, (_, i) => {
        const a = (i / bolts) * 2 * Math.PI - Math.PI / 2;
        return (
          <circle
            key={i}
            cx={15 * Math.cos(a)}
            cy={15 * Math.sin(a)}
            r={bolts > 12 ? 2.2 : 3.2}
            fill={i === 0 ? "var(--ink)" : "var(--sheet)"}
            stroke="var(--ink)"
          />
        );
      })}
    </svg>
  );
}
