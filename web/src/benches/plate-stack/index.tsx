import { asQuantity, inUnit, say as sayQ, unsigned } from "../../model/quantity";
import type { InputOf, ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { Verdict } from "../../parts/Verdict";
import { bench, type Face } from "../bench";
import { GivenAt, Over, type PlaceOver } from "../given";
import { Facts } from "../../parts/Facts";

type Out = ResultOf<"plate-stack">;
type Input = Partial<InputOf<"plate-stack">>;
type Props = Face<"plate-stack">;
type Side = "left" | "right";

const sides: readonly Side[] = ["left", "right"];

/** What is typed beside the packs: the breakaway by lever and weight, and the springs. */
const beside = [
  ["lever", "breakaway: lever"],
  ["weight", "weight on it"],
  ["springs", "springs a side"],
  ["spring.h0", "cone of a spring"],
  ["spring.de", "spring, outside"],
  ["spring.di", "spring, inside"],
  ["spring.t", "spring, thick"],
] as const;

/** The packs in their room, to scale: plates, springs on top, and how proud the cover stands. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const shown = sides.filter(
    (s) => s === "left" || input.right || !step || step.asked.some((a) => a.ask.feeds?.startsWith(s)),
  );
  const places = [
    ...shown.flatMap((side) => platesOf(p, side)),
    ...(step
      ? []
      : beside.map(([path, label], i) => ({
          x: 718 + 122 * (i % 2),
          y: 24 + 66 * Math.floor(i / 2),
          shows: <GivenAt face={p} path={path} label={label} />,
        }))),
  ];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over
          width={900}
          height={step ? 330 : Math.max(330, 100 + 66 * most(input))}
          says={`Plate packs in their room. ${out?.says ?? "Not measured yet"}`}
          places={places}
        >
          {shown.map((side, i) => (
            <Pack key={side} x={60 + 300 * i} side={side} input={input} out={out} units={p.units} />
          ))}
        </Over>
      </Frame>
      {rest(step ? ["left", "right"] : ["left", "right", "lever", "weight", "springs", "spring"])}
    </>
  );
}

const most = (input: Input) => Math.max(...sides.map((s) => (input[s]?.plates.length ?? 0) + 1));

/** Where plates and depth of a side are typed: one height or plate by plate, as many as there are. */
function platesOf(p: Props, side: Side): PlaceOver[] {
  const there = p.input[side]?.plates.length ?? 0;
  const many = p.step ? there || 1 : there + 1;
  const x = side === "left" ? 290 : 590;
  return [
    { x, y: 24, shows: <GivenAt face={p} path={`${side}.depth`} label={`${side} depth`} /> },
    ...Array.from({ length: many }, (_, i) => ({
      x,
      y: 90 + 66 * i,
      shows: (
        <GivenAt
          face={p}
          path={`${side}.plates[${i}]`}
          label={there <= 1 && i === 0 ? "pack, or its first plate" : `plate ${i + 1}`}
        />
      ),
    })),
  ];
}

type PackProps = { x: number; side: Side; input: Input; out: Out | undefined; units: Units };

const room = { top: 40, bottom: 290, wide: 150 };

const saidOf = (input: Input, side: Side) => ({
  plates: (input[side]?.plates ?? []).flatMap((t) => asQuantity(t) ?? []),
  depth: asQuantity(input[side]?.depth),
});

/** One pack: its plates from the seat up, the springs on them, the cover's face as a line. */
function Pack({ x, side, input, out, units }: PackProps) {
  const { plates, depth } = saidOf(input, side);
  if (plates.length === 0) return null;
  const unit = plates[0]?.unit ?? "mm";
  const thick = plates.map((q) => inUnit(q, unit, units));
  const height = thick.reduce((a, b) => a + b, 0);
  const deep = depth ? inUnit(depth, unit, units) : height;
  const scale = (0.8 * (room.bottom - room.top)) / Math.max(height, deep);
  return (
    <g className="stroke-ink" strokeWidth="1.4">
      <path
        d={`M${x} ${room.top}V${room.bottom}H${x + room.wide}V${room.top}`}
        className="fill-none"
        strokeWidth="2.4"
      />
      <Plates x={x} thick={thick} scale={scale} />
      <Springs
        x={x}
        y={room.bottom - height * scale}
        force={side === "left" ? out?.spring_force : undefined}
        units={units}
      />
      {depth && (
        <path
          d={`M${x - 14} ${room.bottom - deep * scale}H${x + room.wide + 14}`}
          className="stroke-out"
          strokeDasharray="6 4"
        />
      )}
      <text
        x={x + room.wide / 2}
        y={room.bottom + 24}
        fontSize="14"
        textAnchor="middle"
        className="stroke-none!"
      >
        {side} {heightOf(out, side, units)}
      </text>
      {side === "left" && out && (
        <text
          x={x + room.wide / 2}
          y={26}
          fontSize="13"
          textAnchor="middle"
          className="fill-blue! stroke-none!"
        >
          cover {sayQ(out.stands_proud, units)} proud
        </text>
      )}
    </g>
  );
}

/** The plates from the seat up, friction and steel in turn. */
const Plates = ({ x, thick, scale }: { x: number; thick: number[]; scale: number }) =>
  thick.map((t, i) => {
    const below = thick.slice(0, i).reduce((a, b) => a + b, 0);
    return (
      <rect
        key={i}
        x={x + (i % 2 ? 16 : 6)}
        y={room.bottom - (below + t) * scale}
        width={room.wide - (i % 2 ? 32 : 12)}
        height={Math.max(1.5, t * scale - 1)}
        className={i % 2 ? "fill-blue/25" : "fill-sheet"}
      />
    );
  });

const heightOf = (out: Out | undefined, side: Side, units: Units) => {
  const q = side === "left" ? out?.left_height : out?.right_height;
  return q ? sayQ(q, units) : "";
};

/** The springs as cones on top of a pack, and what they press with. */
const Springs = ({
  x,
  y,
  force,
  units,
}: {
  x: number;
  y: number;
  force: Quantity | undefined;
  units: Units;
}) => (
  <>
    <path
      d={`M${x + 10} ${y}L${x + room.wide / 2} ${y - 16}L${x + room.wide - 10} ${y}`}
      className="fill-none"
      strokeWidth="2.4"
    />
    {force && (
      <text
        x={x + room.wide / 2}
        y={y - 22}
        fontSize="13"
        textAnchor="middle"
        className="font-mono stroke-none!"
      >
        {sayQ(force, units)}
      </text>
    )}
  </>
);

/** How far the springs are pressed, left against right, and the breakaway before and after. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label={out.precompression ? "The springs are pressed by" : "The cover stands proud by"}
        value={out.precompression ?? out.stands_proud}
        verdict={out.verdict}
        units={units}
        {...(out.spring_force && { below: `they press with ${sayQ(out.spring_force, units)}` })}
      />
      {out.difference && out.difference_verdict !== "none" && (
        <p className="text-note">
          Left against right: {sayQ(unsigned(out.difference), units)}.{" "}
          <Verdict verdict={out.difference_verdict} small />
        </p>
      )}
      <Breakaway out={out} units={units} />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

/** What it takes to slip: worked out and by lever and weight. */
function Breakaway({ out, units }: { out: Out; units: Units }) {
  const said = (
    [
      ["by lever and weight", out.breakaway_measured],
      ["worked out", out.breakaway_computed],
    ] as const
  ).map(([name, q]) => [`it slips at, ${name}`, q && sayQ(q, units)] as const);
  return said.some(([, says]) => says) ? <Facts of={said} /> : null;
}

const help: HelpText = {
  hold:
    "Press the dry pack under the same weight each time, measure at three places, depth likewise. " +
    "Or plate by plate.",
  wrong:
    "Oil between the plates counts as thickness. A bowed plate fitted the wrong way round presses unevenly.",
  why: "What stands proud of the room is what the springs are pressed by, and that is what holds the plates.",
};

export default bench<"plate-stack">({ calc: "plate-stack", Drawing, Meaning });
