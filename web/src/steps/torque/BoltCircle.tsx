import type { TorqueView, Verdict as V } from "../../model/types";
import { ShapeMark } from "../../parts/Verdict";

type Props = {
  bolts: NonNullable<TorqueView["plan"]>["bolts"];
  order: number[];
  next: number | undefined;
  stateOf: (bolt: number) => V;
  onPick: (bolt: number) => void;
};

const colours: Record<string, string> = { in: "text-in", out: "text-out", none: "text-quiet" };

/** The bolts in their true pattern, the path from one to the next, the next one blue. */
export function BoltCircle({ bolts, order, next, stateOf, onPick }: Props) {
  const reach = Math.max(...bolts.map((b) => Math.hypot(b.x, b.y)), 1e-9);
  const place = (n: number) => {
    const b = bolts.find((x) => x.number === n);
    return { x: (100 * (b?.x ?? 0)) / reach, y: (-100 * (b?.y ?? 0)) / reach };
  };
  const at = order.indexOf(next ?? -1);
  const before = at > 0 ? order[at - 1] : undefined;
  return (
    <svg
      viewBox="-150 -142 300 284"
      className="w-full max-h-[320px] min-w-[250px]"
      role="group"
      aria-label={next ? `Bolt circle; next is bolt ${next}` : "Bolt circle"}
    >
      <Flange />
      {before && next && <Way from={place(before)} to={place(next)} />}
      {bolts.map((b) => (
        <Bolt
          key={b.number}
          n={b.number}
          at={place(b.number)}
          isNext={b.number === next}
          state={stateOf(b.number)}
          onPick={onPick}
        />
      ))}
    </svg>
  );
}

type At = { x: number; y: number };

/** What the bolts sit in. */
const Flange = () => (
  <>
    <defs>
      <marker id="tip" viewBox="0 0 10 10" refX="9" refY="5" markerWidth="7" markerHeight="7" orient="auto">
        <path d="M0 0L10 5L0 10z" className="fill-blue" />
      </marker>
    </defs>
    <circle r="126" className="fill-none stroke-ink" strokeWidth="1.4" />
    <circle r="62" className="fill-none stroke-ink" strokeWidth="1.2" />
    <circle r="100" className="fill-none stroke-quiet" strokeWidth="0.8" strokeDasharray="14 3 3 3" />
    <path d="M-138 0H138M0 -138V138" className="stroke-quiet" strokeWidth="0.7" strokeDasharray="14 3 3 3" />
  </>
);

/** The path from the bolt before to the next. */
const Way = ({ from, to }: { from: At; to: At }) => (
  <line
    x1={from.x}
    y1={from.y}
    x2={from.x + (to.x - from.x) * 0.86}
    y2={from.y + (to.y - from.y) * 0.86}
    className="stroke-blue"
    strokeWidth="1.8"
    markerEnd="url(#tip)"
  />
);

type BoltProps = { n: number; at: At; isNext: boolean; state: V; onPick: (bolt: number) => void };

const Bolt = ({ n, at, isNext, state, onPick }: BoltProps) => (
  <g
    transform={`translate(${at.x} ${at.y})`}
    role="button"
    tabIndex={-1}
    aria-label={`bolt ${n}${isNext ? ", next" : ""}${state ? `, ${state}` : ""}`}
    onClick={() => onPick(n)}
    onKeyDown={(e) => e.key === "Enter" && onPick(n)}
    className="cursor-pointer"
  >
    <circle r="27" fill="transparent" />
    <path
      d="M17 0L8.5 14.7H-8.5L-17 0L-8.5 -14.7H8.5Z"
      className={isNext ? "fill-tint stroke-blue" : "fill-sheet stroke-ink"}
      strokeWidth={isNext ? 3 : 1.4}
    />
    <text
      textAnchor="middle"
      y="5.5"
      fontSize="15"
      className={isNext ? "fill-blue! font-semibold" : ""}
      style={{ fontFamily: "var(--font-mono)" }}
    >
      {n}
    </text>
    {state !== "none" && state !== "" && (
      <g transform={`translate(${outside(at)})`} className={colours[state]}>
        <ShapeMark verdict={state} r={5} />
      </g>
    )}
  </g>
);

/** Beside a bolt, away from the middle. */
function outside({ x, y }: At) {
  if (Math.abs(x) > 1) return `${x > 0 ? 24 : -24} 0`;
  return `0 ${y < 0 ? -24 : 24}`;
}
