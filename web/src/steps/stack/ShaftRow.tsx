import type { StackPart } from "../../model/types";

type Size = { w: number; h: number };

/** Width along the shaft and height across it, per shape, in drawing units. */
const sizes: Record<string, Size> = {
  nut: { w: 22, h: 44 },
  flange: { w: 26, h: 120 },
  seal: { w: 16, h: 92 },
  cover: { w: 20, h: 150 },
  bearing: { w: 28, h: 96 },
  circlip: { w: 7, h: 70 },
  fork: { w: 22, h: 130 },
  sleeve: { w: 36, h: 88 },
  washer: { w: 10, h: 76 },
  gear: { w: 44, h: 124 },
  rollers: { w: 36, h: 60 },
  shaft: { w: 84, h: 30 },
  disc: { w: 12, h: 146 },
  plate: { w: 9, h: 126 },
  spring: { w: 18, h: 108 },
  flywheel: { w: 30, h: 158 },
};
const plain: Size = { w: 24, h: 80 };
const gap = 17;
const axis = 104;

type Placed = { part: StackPart; size: Size; x: number };

type Props = { parts: StackPart[]; work: string; current: string | undefined; onPick: (id: string) => void };

/** The parts laid out along their axis, front at the left, with the way each faces. */
export function ShaftRow({ parts, work, current, onPick }: Props) {
  const placed = parts.reduce<Placed[]>((all, part) => {
    const last = all.at(-1);
    return [
      ...all,
      { part, size: sizes[part.shape ?? ""] ?? plain, x: last ? last.x + last.size.w + gap : 16 },
    ];
  }, []);
  const last = placed.at(-1);
  const width = Math.max(300, last ? last.x + last.size.w + gap : 0);
  return (
    <svg
      viewBox={`0 0 ${width} 226`}
      className="w-full min-w-[340px] max-h-[270px]"
      role="group"
      aria-label="Parts on the shaft"
    >
      <line
        x1="4"
        x2={width - 6}
        y1={axis}
        y2={axis}
        className="stroke-quiet"
        strokeWidth="0.9"
        strokeDasharray="16 3 3 3"
      />
      {placed.map(({ part, size, x }, i) => (
        <g
          key={part.id}
          transform={`translate(${x} 0)`}
          role="button"
          tabIndex={-1}
          aria-label={`${i + 1}, ${part.name}${part.faces ? `, faces ${part.faces}` : ""}`}
          onClick={() => onPick(part.id)}
          onKeyDown={(e) => e.key === "Enter" && onPick(part.id)}
          className="cursor-pointer"
        >
          <PartShape part={part} size={size} work={work} isCurrent={part.id === current} />
          <Facing part={part} w={size.w} />
          <text
            x={size.w / 2}
            y="207"
            textAnchor="middle"
            fontSize="13"
            style={{ fontFamily: "var(--font-mono)" }}
            className={part.id === current ? "fill-blue! font-semibold" : "fill-quiet!"}
          >
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}

function PartShape({
  part,
  size: { w, h },
  work,
  isCurrent,
}: {
  part: StackPart;
  size: Size;
  work: string;
  isCurrent: boolean;
}) {
  const gone = part.not_found || part.verdict === "not-found";
  const still = (work === "remove" && !part.removed) || (work === "fit" && !part.fitted);
  const stroke = isCurrent ? "stroke-blue" : gone && !part.fitted ? "stroke-out" : "stroke-ink";
  const fill = isCurrent ? "fill-tint" : still ? "fill-none" : "fill-paper";
  const top = axis - h / 2;
  return (
    <g
      className={`${stroke} ${fill}`}
      strokeWidth={isCurrent ? 2.4 : 1.3}
      strokeDasharray={still && !isCurrent ? "4 3" : gone && !part.fitted ? "2 4" : undefined}
    >
      <title>{part.name}</title>
      <Outline shape={part.shape ?? ""} w={w} h={h} top={top} />
      {part.verdict === "replace" && (
        <path
          d={`M${w / 2 - 6} ${top - 16}l12 12m0 -12l-12 12`}
          fill="none"
          strokeDasharray="none"
          className="stroke-out"
          strokeWidth="2"
        />
      )}
      {part.verdict === "rework" && (
        <path
          d={`M${w / 2 - 7} ${top - 6}l4 -8m1 8l4 -8m1 8l4 -8`}
          fill="none"
          strokeDasharray="none"
          className="stroke-undecided"
          strokeWidth="2"
        />
      )}
      {part.verdict === "reuse" && (
        <path
          d={`M${w / 2 - 6} ${top - 11}l4 4 8 -9`}
          fill="none"
          strokeDasharray="none"
          className="stroke-in"
          strokeWidth="2"
        />
      )}
    </g>
  );
}

/** Section of a part above and below the axis; simple, but told apart at a glance. */
function Outline({ shape, w, h, top }: { shape: string; w: number; h: number; top: number }) {
  const half = (y: number, hh: number, key: string) => <rect key={key} x="0" y={y} width={w} height={hh} />;
  const bore = 15;
  switch (shape) {
    case "shaft":
      return <path d={`M0 ${axis - 11}h14v-4h${w - 34}v4h20v22h-20v4h-${w - 34}v-4h-14z`} />;
    case "gear":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          {Array.from({ length: 5 }, (_, i) => (
            <path key={i} d={`M${4 + i * 9} ${top}v12M${4 + i * 9} ${top + h}v-12`} />
          ))}
        </>
      );
    case "bearing":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          <circle cx={w / 2} cy={top + (h / 2 - bore) / 2} r="9" />
          <circle cx={w / 2} cy={top + h - (h / 2 - bore) / 2} r="9" />
        </>
      );
    case "rollers":
      return (
        <>
          {half(top, 12, "a")}
          {half(top + h - 12, 12, "b")}
          <path d={`M0 ${top + 6}h${w}M0 ${top + h - 6}h${w}`} />
        </>
      );
    case "seal":
      return (
        <path
          d={`M0 ${top}h${w}v10h-${w - 5}v${h / 2 - bore - 14}l6 5h-11zM0 ${top + h}h${w}v-10h-${w - 5}v-${h / 2 - bore - 14}l6 -5h-11z`}
        />
      );
    case "fork":
      return <path d={`M4 ${top}h${w - 8}v26h5v${h - 52}h-5v26h-${w - 8}v-26h6v-${h - 52}h-6z`} />;
    case "sleeve":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          <path d={`M${w} ${axis - bore - 8}l7 4v4h-7M${w} ${axis + bore + 8}l7 -4v-4h-7`} />
        </>
      );
    case "flange":
      return <path d={`M0 ${top}h9v${h / 2 - 30}h${w - 9}v60h-${w - 9}v${h / 2 - 30}h-9z`} />;
    case "spring":
      return (
        <path
          d={`M0 ${top}l${w} ${h / 2 - bore}h-5L0 ${top + 6}zM0 ${top + h}l${w} -${h / 2 - bore}h-5L0 ${top + h - 6}z`}
        />
      );
    case "flywheel":
      return (
        <>
          {half(top + 8, h / 2 - bore - 8, "a")}
          {half(axis + bore, h / 2 - bore - 8, "b")}
          <path d={`M6 ${top}h${w - 12}v8h-${w - 12}zM6 ${top + h}h${w - 12}v-8h-${w - 12}z`} />
        </>
      );
    case "nut":
      return <path d={`M0 ${top}h${w - 6}l6 7v${h - 14}l-6 7h-${w - 6}z`} />;
    default:
      return (
        <>
          {half(top, Math.max(8, h / 2 - bore), "a")}
          {half(axis + bore, Math.max(8, h / 2 - bore), "b")}
        </>
      );
  }
}

/** The way a part faces, below it: an arrow along the shaft or across it, two for in and out, a bar for either. */
const facings: Record<string, string> = {
  front: "M8 0h-16m5 -4l-5 4 5 4",
  rear: "M-8 0h16m-5 -4l5 4 -5 4",
  up: "M0 8v-14m-4 5l4 -5 4 5",
  down: "M0 -6v14m-4 -5l4 5 4 -5",
  in: "M-10 0h7m-3 -4l4 4 -4 4M10 0h-7m3 -4l-4 4 4 4",
  out: "M-2 0h-8m4 -4l-4 4 4 4M2 0h8m-4 -4l4 4 -4 4",
  either: "M-6 0h12",
};

/** Left and right lie across the shaft: they are lettered. Seen otherwise than the book says, only the words tell. */
function Facing({ part, w }: { part: StackPart; w: number }) {
  if (!part.facing || (part.seen && part.seen !== part.faces)) return null;
  const d = facings[part.facing];
  if (!d)
    return (
      <text x={w / 2} y="193" textAnchor="middle" fontSize="14" className="fill-ink! font-semibold">
        {part.facing === "left" ? "L" : "R"}
      </text>
    );
  return (
    <path transform={`translate(${w / 2} 188)`} d={d} fill="none" className="stroke-ink" strokeWidth="1.5" />
  );
}
