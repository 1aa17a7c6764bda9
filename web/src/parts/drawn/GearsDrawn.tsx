import { ratioOf, turned } from "../../model/drawn";
import type { DrawnProps } from "./index";

const wide = 420;

/**
 * The gears as bars, the length as often as the input turns for one turn out; moved by the arrow keys or
 * dragged.
 */
export function GearsDrawn({ rows, typed, onTypeAll }: DrawnProps) {
  const gears = rows.map((_, i) => ({ name: typed[`${i}.name`] ?? "", ratio: ratioOf(typed[`${i}.ratio`]) }));
  const most = Math.max(5, ...gears.map((g) => g.ratio ?? 0)) * 1.1;
  const say = (i: number, ratio: number) => onTypeAll({ [`${i}.ratio`]: turned(ratio) });
  return (
    <div className="border border-hair p-3 flex flex-col gap-1">
      {gears.map((g, i) => (
        <div key={i} className="flex items-center gap-3">
          <span className="w-20 text-right">{g.name || `gear ${i + 1}`}</span>
          <div
            role="slider"
            tabIndex={0}
            aria-label={`Ratio of ${g.name || `gear ${i + 1}`}`}
            aria-valuemin={0.3}
            aria-valuemax={20}
            aria-valuenow={g.ratio ?? 1}
            aria-valuetext={g.ratio === undefined ? "not entered" : `${g.ratio} to 1`}
            className="grow max-w-[420px] min-h-8 flex items-center touch-none cursor-ew-resize"
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={(e) => {
              if (e.buttons !== 1) return;
              const box = e.currentTarget.getBoundingClientRect();
              say(i, ((e.clientX - box.left) / box.width) * most);
            }}
            onKeyDown={(e) => {
              const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
              if (by === undefined) return;
              e.preventDefault();
              say(i, (g.ratio ?? 1) + by * (e.shiftKey ? 0.1 : 0.01));
            }}
          >
            <svg
              viewBox={`0 0 ${wide} 20`}
              className="w-full h-5"
              preserveAspectRatio="none"
              aria-hidden="true"
            >
              <rect
                y={3}
                width={Math.max(2, ((g.ratio ?? 0) / most) * wide)}
                height={14}
                fill={g.ratio === undefined ? "var(--tint)" : "var(--sheet)"}
                stroke="var(--ink)"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          </div>
          <span className="font-mono w-14">{g.ratio ?? "–"}</span>
        </div>
      ))}
    </div>
  );
}
