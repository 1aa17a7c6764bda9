import { ranges, scale, spanOf } from "../../model/ways";
import { Field } from "../Field";
import { cells } from "./cells";
import type { DrawnProps } from "./index";

/** The ways side by side: what each takes as a bar from the least to the most, all on one scale. */
export function WaysDrawn({ rows, typed, onType }: DrawnProps) {
  const ends = new Map(
    ranges.map((r) => [
      r.id,
      scale(Math.max(0, ...rows.map((_, i) => spanOf(typed, `${i}.${r.id}`)?.[1] ?? 0))),
    ]),
  );
  return (
    <div className="grid gap-3 grid-cols-[repeat(auto-fit,minmax(300px,1fr))]">
      {rows.map((_, i) => (
        <div
          key={i}
          role="group"
          aria-label={typed[`${i}.says`] || `Way ${i + 1}`}
          className="border border-ink bg-sheet p-3 flex flex-col gap-2"
        >
          <Field label="Way" {...cells({ typed, onType }, i)("says")} autoFocus={i === 0} />
          {ranges.map((r) => (
            <div key={r.id} role="group" aria-label={r.title}>
              <p className="text-small text-quiet">{r.title}</p>
              <div className="grid grid-cols-[74px_minmax(0,1fr)_74px] gap-2 items-center">
                <End at={`${i}.${r.id}.low`} label={`${r.title}, at least`} typed={typed} onType={onType} />
                <Span span={spanOf(typed, `${i}.${r.id}`)} end={ends.get(r.id)?.end ?? 1} />
                <End at={`${i}.${r.id}.high`} label={`${r.title}, at most`} typed={typed} onType={onType} />
              </div>
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}

type EndProps = Pick<DrawnProps, "typed" | "onType"> & { at: string; label: string };

const End = ({ at, label, typed, onType }: EndProps) => (
  <input
    aria-label={label}
    value={typed[at] ?? ""}
    onChange={(e) => onType(at, e.target.value)}
    inputMode="decimal"
    autoComplete="off"
    className="min-h-11 w-full px-2 border border-ink bg-field font-mono text-body text-right"
  />
);

function Span({ span, end }: { span: [number, number] | undefined; end: number }) {
  return (
    <svg viewBox="0 0 100 20" preserveAspectRatio="none" className="w-full h-6" aria-hidden="true">
      <path d="M0 10H100" stroke="var(--hair)" vectorEffect="non-scaling-stroke" />
      {span && (
        <rect
          x={(span[0] / end) * 100}
          y={3}
          width={Math.max(1, ((span[1] - span[0]) / end) * 100)}
          height={14}
          fill="var(--tint)"
          stroke="var(--ink)"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}
