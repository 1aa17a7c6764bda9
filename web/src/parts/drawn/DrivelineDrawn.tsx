import { type Member, kindWords } from "../../model/line";
import { useCalculator } from "../../data/calc";
import { Fault } from "../Fault";
import { press } from "../press";
import { type Place, Symbol, unit } from "./Symbol";

/** What is known of a member or a shaft: its shade and hatch, how it moved, how it would if all were sound. */
export type Mark = {
  look?: "suspect" | "cleared" | "chosen" | undefined;
  says?: string | undefined;
  motion?: string | undefined;
  sound?: string | undefined;
};

type Props = {
  members: readonly Member[];
  marks?: Record<string, Mark>;
  onTouch?: ((place: Place) => void) | undefined;
};

const fills = {
  suspect: "url(#line-suspect)",
  cleared: "url(#line-cleared)",
  chosen: "var(--tint)",
};

/** A vehicle's line as seen from above, front at the left; laid out by the program. */
export function DrivelineDrawn({ members, marks, onTouch }: Props) {
  const drawn = useCalculator(
    "driveline-drawing",
    members.length > 0 ? { members: [...members] } : undefined,
  );
  const d = drawn.data;
  if (!d) return <Fault error={drawn.error} />;
  const width = d.width * unit;
  const height = d.height * unit;
  return (
    <svg
      viewBox={`-26 -22 ${width + 52} ${height + 44}`}
      className="w-full"
      // whatever is touched is 44 px wide
      style={{ minWidth: width + 52, maxHeight: Math.max(380, height + 44) }}
      role="group"
      aria-label="The driveline from above, front on the left"
    >
      <defs>
        <Hatch id="line-suspect" colour="var(--out)" />
        <Hatch id="line-cleared" colour="var(--in)" back />
      </defs>
      {[7, 4.4].map((w, i) => (
        <g key={w} fill="none" stroke={i === 0 ? "var(--ink)" : "var(--sheet)"} strokeWidth={w}>
          {d.lines.map((l) => (
            <polyline
              key={`${l.shaft} ${l.member}`}
              points={l.points.map(([x, y]) => `${(x ?? 0) * unit},${(y ?? 0) * unit}`).join(" ")}
            />
          ))}
        </g>
      ))}
      {d.places.map((p) => (
        <Standing
          key={`${p.what} ${p.name}`}
          place={p}
          low={p.y > d.height / 2}
          mark={marks?.[p.name]}
          onTouch={onTouch}
        />
      ))}
    </svg>
  );
}

function Hatch({ id, colour, back = false }: { id: string; colour: string; back?: boolean }) {
  return (
    <pattern
      id={id}
      width={7}
      height={7}
      patternUnits="userSpaceOnUse"
      patternTransform={`rotate(${back ? -45 : 45})`}
    >
      <rect width={7} height={7} fill="var(--sheet)" />
      <path d="M0 0V7" stroke={colour} strokeWidth={back ? 1.4 : 3} />
    </pattern>
  );
}

type StandingProps = { place: Place; low: boolean; mark: Mark | undefined; onTouch: Props["onTouch"] };

const lookWords = { suspect: "suspect", cleared: "cleared", chosen: "" };

function Standing({ place: p, low, mark, onTouch }: StandingProps) {
  const touch = onTouch && { role: "button", ...press(() => onTouch(p)) };
  return (
    <g
      transform={`translate(${p.x * unit} ${p.y * unit})`}
      aria-label={labelOf(p, mark)}
      data-place={p.name}
      {...(touch ?? { role: "img" })}
      className={`group outline-none ${onTouch ? "cursor-pointer" : ""}`}
    >
      <rect
        x={-22}
        y={-22}
        width={44}
        height={44}
        fill="transparent"
        className="group-focus-visible:stroke-blue stroke-transparent"
        strokeWidth={3}
      />
      {p.what === "shaft" ? (
        <circle r={mark ? 6 : 4} fill={mark ? "var(--blue)" : "var(--ink)"} />
      ) : (
        <Symbol place={p} fill={mark?.look ? fills[mark.look] : "var(--sheet)"} />
      )}
      <Motions place={p} mark={mark} />
      <Label place={p} low={low} mark={mark} />
    </g>
  );
}

const nameOf = (p: Place) => (p.what === "member" ? p.says || p.name : words(p.name));

function labelOf(p: Place, mark: Mark | undefined) {
  const kind = p.what === "member" ? kindWords[p.kind ?? ""] : "shaft";
  return [nameOf(p), kind, mark?.look && lookWords[mark.look], mark?.says].filter(Boolean).join(", ");
}

/**
 * How it moved and how it would if all were sound; beside a wheel, whose shaft runs where the arrow would
 * be.
 */
function Motions({ place: p, mark }: { place: Place; mark: Mark | undefined }) {
  const beside = p.what === "end" && p.across;
  return (
    <>
      {mark?.motion && <Arrow motion={mark.motion} x={beside ? 44 : 0} y={beside ? 5 : -29} />}
      {mark?.sound && <Arrow motion={mark.sound} x={beside ? 44 : 0} y={beside ? -9 : -42} sound />}
    </>
  );
}

/** The glyph of a motion: an arrow along or back, a bar for standing, a clamp for held, a ring for turned. */
const motions: Record<string, string> = {
  same: "M-10 0h20m-6 -4l6 4 -6 4",
  opposite: "M10 0h-20m6 -4l-6 4 6 4",
  moves: "M-10 0h20m-6 -4l6 4 -6 4M-10 0l6 -4m-6 4l6 4",
  still: "M0 -6v12",
  held: "M-4 -6v12M4 -6v12",
  turned: "M6 -3a7 7 0 1 0 1 4m1 -6l-1 5 -5 -1",
};

/** What moves is drawn in blue; what a sound line would do, above it, in hairline, slowly on its way. */
function Arrow({ motion, x, y, sound = false }: { motion: string; x: number; y: number; sound?: boolean }) {
  const d = motions[motion];
  if (!d) return null;
  const slow = sound && (motion === "same" || motion === "opposite");
  return (
    <path
      d={d}
      transform={`translate(${x} ${y})`}
      fill="none"
      stroke={sound ? "var(--quiet)" : "var(--blue)"}
      strokeWidth={sound ? 1.2 : 2}
      className={slow ? (motion === "same" ? "drift-along" : "drift-back") : undefined}
      aria-hidden="true"
    />
  );
}

const words = (name: string) => name.replaceAll("-", " ");

type LabelProps = { place: Place; low: boolean; mark: Mark | undefined };

/** What was said of it, or its name where that is asked for. */
function Label({ place: p, low, mark }: LabelProps) {
  const named = p.what === "end" || mark?.look === "suspect" || mark?.look === "chosen";
  const text = mark?.says ?? (named ? nameOf(p) : "");
  if (!text) return null;
  return (
    <text
      y={below(p, low)}
      textAnchor="middle"
      fontSize={14}
      fontWeight={mark?.look === "suspect" ? 600 : 400}
      fill={inkOf(mark)}
      stroke="var(--sheet)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

function below(p: Place, low: boolean) {
  if (p.what === "shaft") return 22;
  if (p.what !== "end" || !p.across) return 36;
  return low ? 31 : -27;
}

function inkOf(mark: Mark | undefined) {
  if (mark?.look === "suspect") return "var(--out)";
  return mark?.says === undefined ? "var(--quiet)" : "var(--blue)";
}
