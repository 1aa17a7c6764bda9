import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { LimitLine } from "../../parts/LimitLine";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { Verdict } from "../../parts/Verdict";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";

type Out = ResultOf<"wet-pack">;
type Props = Face<"wet-pack">;

/** What is typed below the drum: what the clearance may be, and what presses. */
const fixed = [
  [
    ["clearance_min", "released, from"],
    ["clearance_max", "to"],
    ["faces", "friction faces"],
    ["height", "pack under load"],
    ["depth", "depth of the room"],
  ],
  [
    ["springs", "springs in line"],
    ["spring.de", "spring, outside"],
    ["spring.di", "inside"],
    ["spring.t", "thick"],
    ["spring.h0", "cone, free"],
  ],
] as const;

/** A place for each that is there, and one more at a loose bench. */
const listed = (face: Props, many: number, path: (i: number) => string, label: string) =>
  Array.from({ length: face.step ? many : many + 1 }, (_, i) => [path(i), `${label} ${i + 1}`] as const);

/** What is typed, row by row; a step's sheet has the rest. */
function rowsOf(p: Props) {
  const { travel = [], plates } = p.input;
  return [
    [
      ...listed(p, travel.length, (i) => `travel[${i}]`, "travel"),
      ["trial_plate", "end plate in it"] as const,
    ],
    ...(p.step
      ? []
      : [listed(p, plates?.length ?? 0, (i) => `plates[${i}].thickness`, "drawer: plate"), ...fixed]),
  ];
}

/** The drum in section: springs, piston, plates and the end plate, with the travel that releases them. */
function Drawing(p: Props) {
  const { title, out, step, rest, units } = p;
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <svg
          viewBox="0 0 620 250"
          className="w-full max-h-[300px]"
          role="img"
          aria-label={`Wet pack in its drum. ${out?.says ?? "Not measured yet"}`}
        >
          <Drum out={out} units={units} />
        </svg>
        {rowsOf(p).map((fields) => (
          <GivenRow key={fields[0]?.[0]} face={p} fields={fields} />
        ))}
      </Frame>
      <Offered out={out} units={units} />
      {rest(["travel", "trial_plate", ...(step ? [] : loose)])}
    </>
  );
}

const loose = ["plates", "clearance_min", "clearance_max", "faces", "height", "depth", "springs", "spring"];

/** Springs press the piston on the plates; the pump lifts it by its travel. */
function Drum({ out, units }: { out: Out | undefined; units: Units }) {
  const gap = out ? Math.min(34, Math.max(4, 14 * inUnit(out.clearance, "mm", units))) : 16;
  return (
    <g className="stroke-ink fill-none" strokeWidth="1.8">
      <path d="M60 40H560V58H545V200H560V218H60z" className="fill-paper" />
      <path d="M78 58H530V200H78z" className="fill-sheet" />
      <path d="M86 70L122 130L86 190M122 70L86 130L122 190" />
      <path d={`M${130} 70h34v120h-34z`} className="fill-tint" />
      <path d={`M${130 - gap} 70v120`} className="stroke-blue" strokeDasharray="6 4" />
      {Array.from({ length: 12 }, (_, i) => (
        <path
          key={i}
          d={`M${170 + 23 * i} ${i % 2 ? 66 : 78}h15v${i % 2 ? 126 : 106}h-15z`}
          className={i % 2 ? "fill-sheet" : "fill-ink/15"}
        />
      ))}
      <path d="M450 62h36v134h-36z" className="fill-paper" strokeWidth="2.6" />
      <path d="M490 58h14v10h-14zM490 190h14v10h-14z" className="fill-ink" />
      <g stroke="none" fontSize="12" className="fill-quiet!">
        <text x="84" y="34">
          springs
        </text>
        <text x="134" y="34">
          piston
        </text>
        <text x="280" y="34">
          plates
        </text>
        <text x="440" y="34">
          end plate
        </text>
        {out && (
          <text x="96" y="238" fontSize="14" className="fill-blue! font-semibold">
            lifts {sayQ(out.clearance, units)}
          </text>
        )}
        {out?.spring_force && (
          <text x="300" y="238" fontSize="14">
            springs press {sayQ(out.spring_force, units)}
          </text>
        )}
      </g>
    </g>
  );
}

/** End plates of the drawer, best first, each with what it would give. */
function Offered({ out, units }: { out: Out | undefined; units: Units }) {
  if (!out || out.plates.length === 0) return null;
  return (
    <table className="mt-3.5 w-full border border-ink text-note">
      <caption className="sr-only">End plates of the drawer</caption>
      <thead>
        <tr className="text-quiet text-small text-right">
          {["end plate", "released", "springs press", "verdict"].map((title) => (
            <th key={title} scope="col" className="font-normal px-3 py-1.5">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="font-mono text-right">
        {out.plates.map((x, i) => (
          <tr key={sayQ(x.plate, units)} className={`border-t border-hair ${i === 0 ? "bg-tint" : ""}`}>
            <td className="px-3 py-1.5">{sayQ(x.plate, units)}</td>
            <td className="px-3">{sayQ(x.clearance, units)}</td>
            <td className="px-3">{x.spring_force ? sayQ(x.spring_force, units) : ""}</td>
            <td className="px-3 font-sans">
              <Verdict verdict={x.verdict} units={units} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How far it releases, and which plate to fit. */
function Meaning({ out, input, units }: Props) {
  if (!out) return null;
  const [min, max] = [asQuantity(input.clearance_min), asQuantity(input.clearance_max)];
  return (
    <>
      <BigFigure
        label="Clearance of the released pack"
        value={out.clearance}
        uncertainty={out.uncertainty}
        verdict={out.verdict}
        below={out.per_face && `${sayQ(out.per_face, units, 1)} at each face`}
        units={units}
      />
      <LimitLine value={out.clearance} min={min} max={max} verdict={out.verdict} units={units} />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Dial on the piston, hand pump on its port. Pump to the stop, read, let go; three times.",
  wrong: "Air in the port makes the piston stop short. Plates that are dry or stick let it rise in steps.",
  why:
    "The piston's stop is fixed. A thicker end plate leaves less travel, " +
    "and presses the springs as much more.",
};

export default bench<"wet-pack">({ calc: "wet-pack", Drawing, Meaning });
