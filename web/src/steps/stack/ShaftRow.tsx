import { useRef, useState } from "react";
import {
  behindAt,
  type Bracket,
  facingOf,
  facingPaths,
  isDone,
  type Line,
  type Placed,
  type Shaft,
  shaftsOf,
} from "../../parts/drawn/shafts";
import type { StackPart } from "../../model/types";
import { axis, PartShape } from "./PartShape";

type Props = {
  parts: StackPart[];
  work: string;
  current: string | undefined;
  folded: ReadonlySet<string>;
  onPick: (id: string) => void;
  onFold: (sub: string) => void;
  /** A part that is off was dragged behind another; undefined where nothing can be moved. */
  onMove: ((id: string, behind: string) => void) | undefined;
};

/** As it is written the way it faces may begin with the word already. */
const facesWords = (faces: string) => (faces.startsWith("faces ") ? faces : `faces ${faces}`);

/** The parts laid out along their shafts, front at the left, with the way each faces. */
export function ShaftRow(props: Props) {
  const lines = shaftsOf(props.parts, props.folded);
  const named = lines.length > 1 || (lines[0]?.shafts.length ?? 0) > 1;
  return (
    <>
      {lines.map((line, i) => (
        <OneLine key={i} {...props} line={line} named={named} />
      ))}
    </>
  );
}

function OneLine({ line, named, ...p }: Props & { line: Line; named: boolean }) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; shaft: Shaft; from: number; to: number } | undefined>();
  /** Where a pointer is along the line, in drawing units. */
  const along = (clientX: number) => {
    const box = svg.current?.getBoundingClientRect();
    return box && box.width > 0 ? ((clientX - box.left) / box.width) * line.width : 0;
  };
  const drop = () => {
    if (!drag) return;
    setDrag(undefined);
    if (Math.abs(drag.to - drag.from) > 12)
      p.onMove?.(drag.id, behindAt(drag.shaft, drag.to - drag.shaft.at, drag.id));
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 ${axis - line.half - 44} ${line.width} ${2 * line.half + 80}`}
      className="w-full min-w-[340px]"
      role="group"
      aria-label={`Parts on the shaft${line.shafts[0]?.name ? `: ${line.shafts.map((s) => s.name).join(", ")}` : ""}`}
      onPointerMove={(e) => drag && setDrag({ ...drag, to: along(e.clientX) })}
      onPointerUp={drop}
      onPointerLeave={() => setDrag(undefined)}
    >
      {line.shafts.map((shaft) => (
        <OneShaft
          key={shaft.name}
          {...p}
          shaft={shaft}
          half={line.half}
          named={named}
          shift={(id) => (drag?.id === id ? drag.to - drag.from : 0)}
          onGrab={(id, clientX) => {
            const at = along(clientX);
            if (p.onMove) setDrag({ id, shaft, from: at, to: at });
          }}
        />
      ))}
    </svg>
  );
}

type OneShaftProps = Props & {
  shaft: Shaft;
  half: number;
  named: boolean;
  shift: (id: string) => number;
  onGrab: (id: string, clientX: number) => void;
};

function OneShaft({ shaft, half, named, shift, onGrab, ...p }: OneShaftProps) {
  return (
    <g transform={`translate(${shaft.at} 0)`}>
      {named && (
        <text x="4" y={axis - half - 28} fontSize="14" className="fill-quiet!">
          {shaft.name || "main shaft"}
        </text>
      )}
      <line
        x1="4"
        x2={shaft.width - 6}
        y1={axis}
        y2={axis}
        className="stroke-quiet"
        strokeWidth="0.9"
        strokeDasharray="16 3 3 3"
      />
      {shaft.brackets.map((b) => (
        <SubOpen key={`${b.name}.${b.from}`} bracket={b} top={axis - half - 44} onFold={p.onFold} />
      ))}
      {shaft.placed.map((x) =>
        x.kind === "sub" ? (
          <SubFolded key={`${x.name}.${x.from}`} sub={x} half={half} {...p} />
        ) : (
          <OnePart
            key={x.part.id}
            {...p}
            placed={x}
            half={half}
            shift={shift(x.part.id)}
            onGrab={(clientX) => x.part.removed && onGrab(x.part.id, clientX)}
          />
        ),
      )}
    </g>
  );
}

type OnePartProps = Omit<Props, "parts" | "folded"> & {
  placed: Extract<Placed, { kind: "part" }>;
  half: number;
  shift: number;
  onGrab: (clientX: number) => void;
};

function OnePart({
  placed: { part, n, size, x },
  half,
  work,
  current,
  onPick,
  onMove,
  shift,
  onGrab,
}: OnePartProps) {
  const isCurrent = part.id === current;
  return (
    <g
      transform={`translate(${x + shift} 0)`}
      role="button"
      tabIndex={-1}
      aria-label={`${sideOf(part)}${n}, ${part.name}${part.faces ? `, ${facesWords(part.faces)}` : ""}`}
      onClick={() => onPick(part.id)}
      onKeyDown={(e) => e.key === "Enter" && onPick(part.id)}
      onPointerDown={(e) => onGrab(e.clientX)}
      className={onMove && part.removed ? "cursor-grab touch-none" : "cursor-pointer"}
    >
      <PartShape part={part} size={size} work={work} isCurrent={isCurrent} />
      <Facing part={part} w={size.w} y={axis + half + 9} />
      <text
        x={size.w / 2}
        y={axis + half + 29}
        textAnchor="middle"
        fontSize="13"
        style={{ fontFamily: "var(--font-mono)" }}
        className={isCurrent ? "fill-blue! font-semibold" : "fill-quiet!"}
      >
        {n}
      </text>
    </g>
  );
}

/** A bracket over an open sub-assembly; a touch folds it. */
function SubOpen({
  bracket: b,
  top,
  onFold,
}: {
  bracket: Bracket;
  top: number;
  onFold: (sub: string) => void;
}) {
  return (
    <g
      role="button"
      tabIndex={-1}
      aria-label={`Fold ${b.name}`}
      transform={`translate(0 ${top})`}
      className="cursor-pointer"
      onClick={() => onFold(b.name)}
      onKeyDown={(e) => e.key === "Enter" && onFold(b.name)}
    >
      <rect x={b.from - 4} y="0" width={b.to - b.from + 8} height="24" fill="transparent" />
      <path d={`M${b.from - 4} 24v-5H${b.to + 4}v5`} fill="none" className="stroke-blue" strokeWidth="1.4" />
      <text x={(b.from + b.to) / 2} y="14" textAnchor="middle" fontSize="13" className="fill-blue!">
        {b.name}
      </text>
    </g>
  );
}

type FoldedProps = Pick<Props, "work" | "current" | "onFold"> & {
  sub: Extract<Placed, { kind: "sub" }>;
  half: number;
};

/** A folded sub-assembly: one block with its numbers; a touch opens it. */
function SubFolded({ sub: s, half, work, current, onFold }: FoldedProps) {
  const here = s.parts.some((p) => p.id === current);
  const done = s.parts.filter((p) => isDone(work, p)).length;
  return (
    <g
      transform={`translate(${s.x} 0)`}
      role="button"
      tabIndex={-1}
      aria-label={`${s.name} ${done}/${s.parts.length} ${s.from}–${s.to}: show`}
      className="cursor-pointer"
      onClick={() => onFold(s.name)}
      onKeyDown={(e) => e.key === "Enter" && onFold(s.name)}
    >
      <rect
        y={axis - s.size.h / 2}
        width={s.size.w}
        height={s.size.h}
        className={`${here ? "stroke-blue fill-tint" : "stroke-ink"} ${done === s.parts.length ? "fill-paper" : "fill-none"}`}
        strokeWidth={here ? 2.4 : 1.3}
      />
      <path
        d={`M0 ${axis - s.size.h / 2 + 6}h${s.size.w}M0 ${axis + s.size.h / 2 - 6}h${s.size.w}`}
        className="stroke-ink"
        strokeWidth="1"
      />
      <text x={s.size.w / 2} y={axis - s.size.h / 2 - 8} textAnchor="middle" fontSize="13">
        {`${s.name} `}
      </text>
      <text x={s.size.w / 2} y={axis + 5} textAnchor="middle" fontSize="13" className="font-mono">
        {`${done}/${s.parts.length} `}
      </text>
      <text
        x={s.size.w / 2}
        y={axis + half + 29}
        textAnchor="middle"
        fontSize="13"
        className="font-mono fill-quiet!"
      >
        {s.from}–{s.to}
      </text>
    </g>
  );
}

/** The letter of a side; what lies along the shaft has an arrow instead. */
function sideOf(part: StackPart): string {
  const way = facingOf(part);
  return way === "left" ? "L " : way === "right" ? "R " : "";
}

/**
 * Left and right lie across the shaft: they are lettered. Seen otherwise than the book says, only the
 * words tell.
 */
function Facing({ part, w, y }: { part: StackPart; w: number; y: number }) {
  const way = facingOf(part);
  if (!way) return null;
  const d = facingPaths[way];
  if (!d)
    return (
      <text x={w / 2} y={y + 5} textAnchor="middle" fontSize="14" className="fill-ink! font-semibold">
        {sideOf(part)}
      </text>
    );
  return (
    <path transform={`translate(${w / 2} ${y})`} d={d} fill="none" className="stroke-ink" strokeWidth="1.5" />
  );
}
