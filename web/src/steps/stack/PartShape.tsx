import type { Size } from "../../parts/drawn/shafts";
import type { StackPart } from "../../model/types";
import { Outline } from "../../parts/drawn/Outline";

/** How far down the axis of the shafts is drawn. */
export const axis = 104;

type Props = { part: StackPart; size: Size; work: string; isCurrent: boolean };

/**
 * A part in section: dashed while it is to be done, gapped where it was not there, with the mark of its
 * verdict.
 */
export function PartShape({ part, size: { w, h }, work, isCurrent }: Props) {
  const drawn = isCurrent ? current : lookOf(part, work);
  const mark = marks[part.verdict ?? ""];
  return (
    <g {...drawn}>
      <title>{part.name}</title>
      <Outline shape={part.shape ?? ""} w={w} h={h} axis={axis} />
      {mark && (
        <path
          transform={`translate(${w / 2} ${axis - h / 2})`}
          d={mark.d}
          fill="none"
          strokeDasharray="none"
          className={mark.look}
          strokeWidth="2"
        />
      )}
    </g>
  );
}

function lookOf(part: StackPart, work: string) {
  const gone = !part.fitted && (part.none || part.not_found || part.verdict === "not-found");
  const open = work === "remove" ? !part.removed : work === "fit" && !part.fitted && !part.none;
  if (open)
    return { ...done, className: `${gone ? "stroke-out" : "stroke-ink"} fill-none`, strokeDasharray: "4 3" };
  return gone ? { ...done, className: "stroke-out fill-paper", strokeDasharray: "2 4" } : done;
}

const current = { className: "stroke-blue fill-tint", strokeWidth: 2.4 };
const done = { className: "stroke-ink fill-paper", strokeWidth: 1.3 };

/** A cross is replaced, a file mark reworked, a tick stays. */
const marks: Record<string, { d: string; look: string }> = {
  replace: { d: "M-6 -16l12 12m0 -12l-12 12", look: "stroke-out" },
  rework: { d: "M-7 -6l4 -8m1 8l4 -8m1 8l4 -8", look: "stroke-undecided" },
  reuse: { d: "M-6 -11l4 4 8 -9", look: "stroke-in" },
};
