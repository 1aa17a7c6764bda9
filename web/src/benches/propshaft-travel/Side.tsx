import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { Units } from "../../model/types";
import type { Face } from "../bench";
import type { Out } from ".";

type Input = Face<"propshaft-travel">["input"];
type Now = Out["positions"][number] | undefined;
type Props = { out: Out | undefined; input: Input; now: Now; units: Units };
type XY = { x: number; y: number };

const width = 900;
const height = 300;

/** A place in millimetres; none where it is not said. */
function placeOf(p: { x?: unknown; y?: unknown } | undefined | null, units: Units): XY | undefined {
  const [x, y] = [asQuantity(p?.x), asQuantity(p?.y)];
  return x && y ? { x: inUnit(x, "mm", units), y: inUnit(y, "mm", units) } : undefined;
}

/** The line from the side at one travel: shafts, axle, what guides it, and the plane to clear. */
export function Side({ out, input, now, units }: Props) {
  const [last, axle] = [now?.last_joint_mm, now?.axle_mm];
  const before = [input.output, input.centre_joint].flatMap((j) => placeOf(j, units) ?? []);
  const joints = last ? [...before, last] : before;
  const plane = [placeOf(input.plane?.from, units), placeOf(input.plane?.to, units)].flatMap((x) => x ?? []);
  const guides = guidesOf(input, units);
  const at = scaled([...everywhere(out), ...plane, ...guides.flat()]);
  const line = (points: XY[]) => points.map((p, i) => `${i ? "L" : "M"}${at(p).x} ${at(p).y}`).join("");
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={describe(now, units)}>
      {guides.map((g, i) => (
        <path
          key={i}
          d={line(axle && g[0] ? [g[0], axle] : g)}
          className="stroke-quiet fill-none"
          strokeWidth="5"
        />
      ))}
      <path d={line(plane)} className="stroke-out" strokeWidth="4" />
      <path d={line(joints)} className="stroke-ink fill-none" strokeWidth="7" strokeLinecap="round" />
      {axle && joints.length > 0 && (
        <path
          d={line([axle, joints.at(-1) ?? axle])}
          className="stroke-ink"
          strokeWidth="11"
          opacity="0.35"
        />
      )}
      {axle && (
        <circle cx={at(axle).x} cy={at(axle).y} r="20" className="fill-paper stroke-ink" strokeWidth="2" />
      )}
      <Joints at={joints.map(at)} now={now} faulty={faultyJoint(out)} />
      {now && (
        <text x={width - 16} y={height - 14} fontSize="14" textAnchor="end" className="fill-blue!">
          length {sayQ(now.length, units)}, slip {sayQ(now.slip, units)}
          {now.clearance ? `, clear by ${sayQ(now.clearance, units)}` : ""}
        </text>
      )}
      <text x="14" y={height - 14} fontSize="12" className="fill-quiet!">
        front at the left, drawn to scale
      </text>
    </svg>
  );
}

const describe = (now: Now, units: Units) =>
  now
    ? `Propshaft from the side. At ${sayQ(now.travel, units)}: joints ${now.angles_deg.map((a) => `${a.toFixed(1)}°`).join(", ")}, slip ${sayQ(now.slip, units)}`
    : "Propshaft from the side. Not worked out yet";

/** The joint that bends too far, from 1; none where they all may. */
const faultyJoint = (out: Out | undefined) => (out?.at_fault.includes("angle") ? out.worst.angle.joint : 0);

/** Each joint with its angle. */
const Joints = ({ at, now, faulty }: { at: XY[]; now: Now; faulty: number }) =>
  at.map((j, i) => (
    <g key={i}>
      <circle cx={j.x} cy={j.y} r="8" className="fill-sheet stroke-ink" strokeWidth="2" />
      <text
        x={j.x}
        y={j.y - 18}
        fontSize="15"
        textAnchor="middle"
        className={i + 1 === faulty ? "fill-out!" : ""}
      >
        {now?.angles_deg[i]?.toFixed(1)}°
      </text>
    </g>
  ));

/** Every place of the stroke, so that the drawing stands still while the axle moves. */
const everywhere = (out: Out | undefined): XY[] =>
  (out?.positions ?? []).flatMap((p) => [p.last_joint_mm, p.axle_mm]);

/** Where the axle is held: eye, pivot, or the links' places on the body. */
const guidesOf = ({ linkage }: Input, units: Units): XY[][] =>
  [linkage?.eye, linkage?.pivot, linkage?.lower?.body, linkage?.upper?.body].flatMap((p) => {
    const at = placeOf(p, units);
    return at ? [[at]] : [];
  });

/** One scale for both directions, all of it within the picture. */
function scaled(all: XY[]): (p: XY) => XY {
  const [xs, ys] = [all.map((p) => p.x), all.map((p) => p.y)];
  const [left, right] = [Math.min(0, ...xs), Math.max(1, ...xs)];
  const [low, high] = [Math.min(0, ...ys), Math.max(1, ...ys)];
  const scale = Math.min((width - 120) / (right - left), (height - 110) / (high - low));
  return (p) => ({ x: 60 + (p.x - left) * scale, y: 55 + (high - p.y) * scale });
}
