import { sayNumber, unsigned } from "../model/quantity";
import type { Quantity, Units, Verdict as V } from "../model/types";

const words: Record<string, string> = {
  in: "In",
  out: "Out",
  undecided: "Undecided",
  none: "Not measured",
  "": "Not measured",
};
const colours: Record<string, string> = {
  in: "text-in",
  out: "text-out",
  undecided: "text-undecided",
  none: "text-quiet",
  "": "text-quiet",
};

/** The shape of a verdict: disc, square, diamond, ring. It is told apart in black and white. */
export function VerdictShape({ verdict, size = 14 }: { verdict: V; size?: number }) {
  const h = size / 2;
  return (
    <svg
      width={size}
      height={size}
      viewBox={`${-h} ${-h} ${size} ${size}`}
      aria-hidden="true"
      className={`shrink-0 ${colours[verdict]}`}
    >
      <ShapeMark verdict={verdict} r={h} />
    </svg>
  );
}

/** The same shape inside a drawing, centred on the origin. */
export function ShapeMark({ verdict, r }: { verdict: V; r: number }) {
  switch (verdict) {
    case "in":
      return <circle r={r} fill="currentColor" />;
    case "out":
      return <rect x={-r} y={-r} width={2 * r} height={2 * r} fill="currentColor" />;
    case "undecided":
      return <path d={`M0 ${-r}L${r} 0L0 ${r}L${-r} 0Z`} fill="currentColor" />;
    default:
      return <circle r={r - 1} fill="none" stroke="currentColor" strokeWidth="1.6" />;
  }
}

/** A verdict as it came in a list of a result. */
export const verdictOf = (x: unknown): V => (x === "in" || x === "out" || x === "undecided" ? x : "none");

type Props = {
  verdict: V;
  says?: string;
  small?: boolean;
  /** How far the figure lies outside, below zero under its lower limit, as the calculator says it. */
  beyond?: Quantity | undefined;
  units?: Units;
};

export function Verdict({ verdict, says, small, beyond, units }: Props) {
  return (
    <span
      className={`inline-flex items-center gap-2 font-semibold ${small ? "text-note" : "text-head"} ${colours[verdict]}`}
    >
      <VerdictShape verdict={verdict} size={small ? 11 : 14} />
      {says ?? (beyond ? outBy(beyond, units) : words[verdict])}
    </span>
  );
}

function outBy(beyond: Quantity, units: Units) {
  const by = sayNumber(unsigned(beyond), units);
  return beyond.value < 0 ? `Out: ${by} too small` : `Out by ${by}`;
}
