import type { KeyboardEvent, PointerEvent } from "react";
import type { Dab, Flank } from "./dabs";

const view = { width: 420, height: 210 };
const face = { left: 30, right: 390, top: 30, bottom: 180 };
const middle = { x: (face.left + face.right) / 2, y: (face.top + face.bottom) / 2 };
const half = { x: (face.right - face.left) / 2, y: (face.bottom - face.top) / 2 };

/** A tooth of even depth, or one that is shallower at the toe: how high it is at x. */
const slope = (even: boolean) => (even ? 0 : 36);

type Props = {
  flank: Flank;
  dab: Dab;
  even: boolean;
  onDab: ((dab: Dab) => void) | undefined;
  photo: string | undefined;
};

/** One flank from toe to heel, the place where it bears dabbed on it. */
export function Tooth({ flank, dab, even, onDab, photo }: Props) {
  const touch = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const x = ((e.clientX - box.left) / box.width) * view.width;
    const y = ((e.clientY - box.top) / box.height) * view.height;
    onDab?.({ u: within((x - middle.x) / half.x), v: within((middle.y - y) / half.y) });
  };
  return (
    <figure>
      <figcaption className="text-note font-semibold">{flank} side</figcaption>
      <svg
        viewBox={`0 0 ${view.width} ${view.height}`}
        className="w-full touch-none cursor-crosshair focus-visible:outline-[3px] outline-blue"
        role="slider"
        aria-label={`${flank} side, where it bears`}
        aria-valuetext={words(dab)}
        aria-valuenow={Math.round(100 * (dab.u ?? 0))}
        aria-valuemin={-100}
        aria-valuemax={100}
        tabIndex={0}
        data-flank={flank}
        onPointerDown={touch}
        onKeyDown={(e) => onKey(e, dab, onDab)}
      >
        {photo && <Photograph of={photo} />}
        <path
          d={`M${face.left} ${face.top + slope(even)}L${face.right} ${face.top}V${face.bottom}H${face.left}Z`}
          className={photo ? "fill-none stroke-ink" : "fill-sheet stroke-ink"}
          strokeWidth="2"
        />
        <ellipse
          cx={middle.x - 0.1 * half.x}
          cy={middle.y + slope(even) / 4}
          rx={0.5 * half.x}
          ry={0.38 * half.y}
          className="fill-none stroke-quiet"
          strokeDasharray="5 5"
        />
        <Bears dab={dab} even={even} />
        {(
          [
            [face.left, face.bottom + 20, "start", "toe"],
            [face.right, face.bottom + 20, "end", "heel"],
            [middle.x, face.top - 8, "middle", "face"],
            [middle.x, face.bottom + 20, "middle", "root"],
          ] as const
        ).map(([x, y, anchor, word]) => (
          <text key={word} x={x} y={y} fontSize="13" textAnchor={anchor} className="fill-quiet!">
            {word}
          </text>
        ))}
      </svg>
    </figure>
  );
}

/** The tooth as it was photographed, under what is dabbed. */
const Photograph = ({ of }: { of: string }) => (
  <image
    href={`/api/v1/photos/${of}`}
    x={face.left}
    y={face.top}
    width={face.right - face.left}
    height={face.bottom - face.top}
    preserveAspectRatio="xMidYMid slice"
  />
);

/** Where it bears, as long as it was dabbed. */
function Bears({ dab: { u, v, length }, even }: { dab: Dab; even: boolean }) {
  if (u === undefined || v === undefined) return null;
  const lower = (slope(even) / 2) * (1 - (u + 1) / 2);
  return (
    <ellipse
      cx={middle.x + u * half.x * 0.72}
      cy={middle.y + lower - v * half.y * 0.66}
      rx={Math.max(0.12, length ?? 0.4) * half.x * 0.85}
      ry={half.y * 0.24}
      className="fill-blue/30 stroke-blue"
      strokeWidth="2"
    />
  );
}

const within = (x: number) => Math.round(100 * Math.max(-1, Math.min(1, x))) / 100;

const step = 0.3;

/** Arrow keys move it, plus and minus change its length. */
function onKey(e: KeyboardEvent, { u = 0, v = 0, length = 0.5 }: Dab, onDab: Props["onDab"]) {
  const to: Record<string, Dab> = {
    ArrowLeft: { u: within(u - step), v },
    ArrowRight: { u: within(u + step), v },
    ArrowUp: { u, v: within(v + step) },
    ArrowDown: { u, v: within(v - step) },
    "+": { length: Math.min(1, within(length + step)) },
    "-": { length: Math.max(0.1, within(length - step)) },
  };
  const dab = to[e.key];
  if (!dab || !onDab) return;
  e.preventDefault();
  e.stopPropagation();
  onDab(dab);
}

/** A place on a flank in words. */
export function words({ u, v, length }: Dab): string {
  if (u === undefined || v === undefined) return "not dabbed yet";
  const along = u < -0.15 ? "toward the toe" : u > 0.15 ? "toward the heel" : "in the middle";
  const up = v < -0.15 ? "near the root" : v > 0.15 ? "near the face" : "half way up";
  return `${along}, ${up}${length === undefined ? "" : `, over ${Math.round(100 * length)} % of the tooth`}`;
}
