import { useRef } from "react";
import { clampMm, millimetres } from "../../model/drawn";
import type { DrawnProps } from "./index";

const half = 130;

/** Dowels about the crank's centre, seen from the engine: dragged, or moved by arrow keys, 1 mm a time. */
export function DowelsDrawn({ rows, typed, onTypeAll }: DrawnProps) {
  const sheet = useRef<SVGSVGElement>(null);
  const at = rows.map((_, i) => ({ x: millimetres(typed[`${i}.x`]), y: millimetres(typed[`${i}.y`]) }));
  const far = Math.max(200, ...at.flatMap((p) => [Math.abs(p.x ?? 0), Math.abs(p.y ?? 0)])) * 1.15;
  const move = (i: number, x: number, y: number) =>
    onTypeAll({ [`${i}.x`]: `${clampMm(x)} mm`, [`${i}.y`]: `${clampMm(y)} mm` });
  const drag = (i: number) => (e: React.PointerEvent) => {
    if (e.buttons !== 1 || !sheet.current) return;
    const box = sheet.current.getBoundingClientRect();
    move(
      i,
      ((e.clientX - box.left) / box.width - 0.5) * 2 * far,
      (0.5 - (e.clientY - box.top) / box.height) * 2 * far,
    );
  };
  return (
    <svg
      ref={sheet}
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      className="size-[280px] border border-hair touch-none"
      role="group"
      aria-label="Dowel positions around the crank centre"
    >
      <path d={`M${-half} 0H${half}M0 ${-half}V${half}`} stroke="var(--hair)" strokeDasharray="9 3 2 3" />
      <circle r={(half * 60) / far} fill="none" stroke="var(--ink)" />
      {at.map((p, i) => {
        const x = p.x ?? (i % 2 === 0 ? -1 : 1) * far * 0.6;
        const y = p.y ?? 0;
        return (
          <Dowel
            key={i}
            n={i + 1}
            known={p.x !== undefined && p.y !== undefined}
            at={[x, y]}
            scale={half / far}
            onDrag={drag(i)}
            onMove={(right, up) => move(i, x + right, y + up)}
          />
        );
      })}
    </svg>
  );
}

/** What an arrow key moves a dowel by, right and up, in mm; with shift ten times as much. */
const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

type DowelProps = {
  n: number;
  known: boolean;
  at: [number, number];
  scale: number;
  onDrag: (e: React.PointerEvent) => void;
  onMove: (right: number, up: number) => void;
};

const Dowel = ({ n, known, at: [x, y], scale, onDrag, onMove }: DowelProps) => (
  <g
    role="button"
    tabIndex={0}
    aria-label={`Dowel ${n}: ${known ? `${x} mm right, ${y} mm up` : "position not entered"}`}
    transform={`translate(${x * scale} ${-y * scale})`}
    className="cursor-move outline-none group"
    onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
    onPointerMove={onDrag}
    onKeyDown={(e) => {
      const step = steps[e.key];
      if (!step) return;
      e.preventDefault();
      const by = e.shiftKey ? 10 : 1;
      onMove(step[0] * by, step[1] * by);
    }}
  >
    <circle r={16} fill="transparent" className="group-focus-visible:stroke-blue" strokeWidth={3} />
    <circle
      r={7}
      fill={known ? "var(--sheet)" : "var(--tint)"}
      stroke={known ? "var(--ink)" : "var(--blue)"}
      strokeDasharray={known ? undefined : "3 2"}
      strokeWidth={1.6}
    />
    <text y={-14} textAnchor="middle" fontSize={13} fill="var(--quiet)">
      {n}
    </text>
  </g>
);
