import type { components } from "../../model/schema.gen";

export type Place = components["schemas"]["DrivelinePlace"];

/** How large a member stands on the sheet. */
export const unit = 68;

/** A member or an end of the line, drawn about its middle; across stands upright. */
export function Symbol({ place: p, fill }: { place: Place; fill: string }) {
  const turn = p.across ? "rotate(90)" : undefined;
  return (
    <g transform={turn} fill={fill} stroke="var(--ink)" strokeWidth={1.6}>
      {p.what === "end" ? <End name={p.name} upright={p.across ?? false} /> : <Member kind={p.kind ?? ""} />}
    </g>
  );
}

/** What ends the line: a wheel, or what drives it. */
function End({ name, upright }: { name: string; upright: boolean }) {
  if (!/left|right|wheel/.test(name)) return <rect x={-22} y={-16} width={44} height={32} />;
  // A wheel stands along the vehicle, whichever way its shaft comes.
  return (
    <g transform={upright ? "rotate(90)" : undefined}>
      <rect x={-31} y={-14} width={62} height={28} />
      {[-20, -8, 4, 16].map((x) => (
        <path key={x} d={`M${x} -14l4 28`} stroke="var(--quiet)" strokeWidth={0.8} />
      ))}
    </g>
  );
}

function Member({ kind }: { kind: string }) {
  switch (kind) {
    case "gear":
      return (
        <>
          <rect x={-9} y={-13} width={8} height={26} />
          <rect x={1} y={-20} width={9} height={40} />
        </>
      );
    case "differential":
      return (
        <>
          <circle r={21} />
          <path d="M-15 -15 15 15M-15 15 15 -15" />
        </>
      );
    case "clutch":
      return (
        <>
          <rect x={-15} y={-19} width={12} height={38} />
          <rect x={3} y={-19} width={12} height={38} />
          <path d="M-3 -10h6M-3 0h6M-3 10h6" strokeWidth={0.9} />
        </>
      );
    case "viscous":
      return (
        <>
          <rect x={-20} y={-17} width={40} height={34} />
          <path
            d="M-14 -8q7 -6 14 0t14 0M-14 0q7 -6 14 0t14 0M-14 8q7 -6 14 0t14 0"
            fill="none"
            strokeWidth={0.9}
          />
        </>
      );
    case "one_way":
      return <path d="M-14 -16 14 0-14 16Z" />;
    case "joint":
      return <circle r={9} />;
    default:
      return <rect x={-20} y={-5} width={40} height={10} />;
  }
}
