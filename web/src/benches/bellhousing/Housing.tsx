import type { KeyboardEvent } from "react";
import { asQuantity, inUnit, say as sayQ, sayClock } from "../../model/quantity";
import type { InputOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { atClock } from "../../parts/drawn/clock";
import type { Dowel, Out } from ".";

type Input = Partial<InputOf<"bellhousing">>;
type Offset = Out["offset"];

type Props = {
  out: Out | undefined;
  input: Input;
  units: Units;
  dowels: Dowel[] | undefined;
  predicted: Offset | undefined;
  onTurn: (dowels: Dowel[]) => void;
};

/** The drawing's half width, the ring of the clock, the bore; in drawing units. */
export const half = 250;
export const ring = 150;
const bore = 112;
/** How far out the largest offset is drawn. */
const reach = 42;

/** The crank's circle, the bore as it stands and as a plan would leave it, and the dowels. */
export function Housing({ out, input, units, dowels, predicted, onTurn }: Props) {
  const unit = out?.limit.unit ?? "thou";
  const in1 = (q: Quantity) => inUnit(q, unit, units);
  const largest = Math.max(
    out ? in1(out.offset.magnitude) : 0,
    out ? in1(out.limit) : 0,
    predicted ? in1(predicted.magnitude) : 0,
    1e-9,
  );
  const scale = reach / largest;
  const centre = (o: Offset) => ({ x: scale * in1(o.right), y: -scale * in1(o.up) });
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      className="block w-full"
      role="group"
      aria-label={describe(out, predicted, units)}
    >
      <Clock />
      <path
        d={`M${-bore - 8} 0H${bore + 8}M0 ${-bore - 8}V${bore + 8}`}
        className="stroke-quiet"
        strokeWidth="0.8"
        strokeDasharray="14 3 3 3"
      />
      <circle r={bore} className="fill-none stroke-ink" strokeWidth="1.4" strokeDasharray="7 5" />
      {out && (
        <>
          <circle
            r={scale * in1(out.limit)}
            className="fill-none stroke-in"
            strokeWidth="1.4"
            strokeDasharray="3 4"
          />
          <Bore
            at={centre(out.offset)}
            uncertainty={out.uncertainty ? scale * in1(out.uncertainty) : 0}
            out={out.verdict === "out"}
          />
          <text
            x={centre(out.offset).x + 8}
            y={centre(out.offset).y - 8}
            fontSize="14"
            className={out.verdict === "out" ? "fill-out! font-semibold" : "font-semibold"}
          >
            {sayQ(out.offset.magnitude, units)} now
          </text>
        </>
      )}
      {predicted && <Predicted at={centre(predicted)} text={`${sayQ(predicted.magnitude, units)} after`} />}
      <Dowels input={input} units={units} dowels={dowels} onTurn={onTurn} />
      {out && (
        <text x={-half + 4} y={half - 8} fontSize="12.5" className="fill-quiet!">
          offsets drawn {Math.round(magnified(input, units, unit, scale))} times larger
        </text>
      )}
    </svg>
  );
}

function Clock() {
  return (
    <g>
      <circle r={ring} className="fill-none stroke-hair" strokeWidth="1.2" />
      {Array.from({ length: 60 }, (_, i) => {
        const from = atClock(i / 5, ring);
        const to = atClock(i / 5, ring - (i % 5 === 0 ? 10 : 5));
        return (
          <line
            key={i}
            x1={from.x}
            y1={from.y}
            x2={to.x}
            y2={to.y}
            className={i % 5 === 0 ? "stroke-ink" : "stroke-hair"}
            strokeWidth="1.2"
          />
        );
      })}
    </g>
  );
}

type At = { x: number; y: number };

/** The bore as it stands: a solid line, its centre with the uncertainty round it. */
function Bore({ at, uncertainty, out }: { at: At; uncertainty: number; out: boolean }) {
  const colour = out ? "stroke-out" : "stroke-ink";
  return (
    <g>
      <circle cx={at.x} cy={at.y} r={bore} className={`fill-none ${colour}`} strokeWidth="2" />
      <line x2={at.x} y2={at.y} className={colour} strokeWidth="2" />
      <circle cx={at.x} cy={at.y} r={uncertainty} className="fill-tint/60 stroke-quiet" strokeWidth="0.9" />
      <circle cx={at.x} cy={at.y} r="3.6" className={out ? "fill-out" : "fill-ink"} />
    </g>
  );
}

/** Where a plan would leave it: dashed and blue. */
function Predicted({ at, text }: { at: At; text: string }) {
  return (
    <g className="stroke-blue" strokeDasharray="6 4">
      <circle cx={at.x} cy={at.y} r={bore} className="fill-tint/25" strokeWidth="2" />
      <circle cx={at.x} cy={at.y} r="4" className="fill-blue" stroke="none" />
      <text
        x={at.x - 10}
        y={at.y + 20}
        textAnchor="end"
        fontSize="14"
        stroke="none"
        className="fill-blue! font-semibold"
      >
        {text}
      </text>
    </g>
  );
}

type DowelsProps = Pick<Props, "input" | "units" | "dowels" | "onTurn">;

/** The dowels where they sit; one with the focus is turned by the arrow keys, and made larger or smaller. */
function Dowels({ input, units, dowels, onTurn }: DowelsProps) {
  const places = (input.dowels ?? []).map((p) => ({ x: lengthIn(p.x, units), y: lengthIn(p.y, units) }));
  const far = Math.max(...places.map((p) => Math.hypot(p.x, p.y)), 1e-9);
  const sizes = [plain, ...(input.dowel_sizes ?? []).flatMap((s) => asQuantity(s) ?? [])];
  const turn = (i: number, e: KeyboardEvent) => {
    const set = dowels ?? places.map(() => ({ size: sizes[1] ?? plain, clock: 12 }));
    const d = set[i];
    const turned = d && turnedBy(d, e, sizes);
    if (!turned) return;
    e.preventDefault();
    onTurn(set.map((x, k) => (k === i ? turned : x)));
  };
  return places.map((p, i) => (
    <DowelAt
      key={`${p.x} ${p.y}`}
      at={{ x: (p.x / far) * (half - 46), y: (-p.y / far) * (half - 46) }}
      name={`${p.y >= 0 ? "upper" : "lower"} ${p.x >= 0 ? "right" : "left"} dowel`}
      dowel={dowels?.[i]}
      units={units}
      onKeyDown={(e) => turn(i, e)}
    />
  ));
}

const plain: Quantity = { value: 0, unit: "thou" };

/**
 * A dowel as an arrow key leaves it: a quarter of an hour, with shift a minute on; up and down change its
 * size.
 */
function turnedBy(d: Dowel, e: KeyboardEvent, sizes: readonly Quantity[]): Dowel | undefined {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
  const larger = { ArrowDown: -1, ArrowUp: 1 }[e.key];
  if (by !== undefined) return { ...d, clock: (d.clock + by * (e.shiftKey ? 1 / 60 : 0.25) + 12) % 12 };
  if (larger === undefined) return undefined;
  const at = sizes.findIndex((s) => s.value === d.size.value) + larger;
  return { ...d, size: sizes[Math.min(sizes.length - 1, Math.max(0, at))] ?? d.size };
}

type DowelAtProps = {
  at: At;
  name: string;
  dowel: Dowel | undefined;
  units: Units;
  onKeyDown: (e: KeyboardEvent) => void;
};

/** One dowel: its shoulder, and the eccentric pin that points where it is turned. */
function DowelAt({ at, name, dowel: d, units, onKeyDown }: DowelAtProps) {
  const eccentric = d !== undefined && d.size.value > 0;
  const off = eccentric ? atClock(d.clock, 7) : { x: 0, y: 0 };
  const says = d ? dowelWords(d, units) : "not turned";
  return (
    <g
      transform={`translate(${at.x} ${at.y})`}
      tabIndex={0}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round((d?.clock ?? 0) * 60)}
      aria-valuetext={says}
      onKeyDown={onKeyDown}
      className="cursor-pointer"
    >
      <circle r="22" className="fill-sheet stroke-ink" strokeWidth="1.4" />
      <circle
        cx={off.x}
        cy={off.y}
        r="13"
        className={d ? "fill-tint stroke-blue" : "fill-paper stroke-ink"}
        strokeWidth="1.6"
        strokeDasharray={d ? "4 3" : undefined}
      />
      {eccentric && <Arrow clock={d.clock} />}
      <text
        y={at.y <= 0 ? -28 : 39}
        textAnchor="middle"
        fontSize="13"
        className={d ? "fill-blue!" : "fill-quiet!"}
      >
        {d ? says : name.replace(" dowel", "")}
      </text>
    </g>
  );
}

const dowelWords = (d: Dowel, units: Units) =>
  d.size.value === 0 ? "plain" : `${sayQ(d.size, units)} at ${sayClock(d.clock)}`;

function Arrow({ clock }: { clock: number }) {
  const to = atClock(clock, 33);
  const from = atClock(clock, 20);
  return (
    <g className="stroke-blue" strokeWidth="2">
      <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} />
      <path
        transform={`translate(${to.x} ${to.y}) rotate(${clock * 30})`}
        d="M-5 4L0 -6L5 4z"
        className="fill-blue"
        stroke="none"
      />
    </g>
  );
}

const lengthIn = (said: unknown, units: Units) => {
  const q = asQuantity(said);
  return q ? inUnit(q, "mm", units) : 0;
};

/** How many times larger than the dowels' places an offset is drawn. */
function magnified(input: Input, units: Units, unit: string, scale: number) {
  const far = Math.max(
    ...(input.dowels ?? []).map((p) => Math.hypot(lengthIn(p.x, units), lengthIn(p.y, units))),
    1e-9,
  );
  return scale / inUnit({ value: 1, unit }, "mm", units) / ((half - 46) / far);
}

function describe(out: Out | undefined, predicted: Offset | undefined, units: Units) {
  if (!out) return "Bell housing seen from behind the engine, not read yet";
  const after = predicted ? `, this plan leaves ${sayQ(predicted.magnitude, units)}` : "";
  return `Bell housing seen from behind the engine: the bore is ${sayQ(out.offset.magnitude, units)} off centre, toward ${sayClock(out.offset.clock)}${after}`;
}
