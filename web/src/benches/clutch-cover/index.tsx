import { asQuantity, inUnit, say as sayQ, unsigned } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { Verdict } from "../../parts/Verdict";
import { bench, type Face } from "../bench";
import { asksFor, GivenAt, Over, type PlaceOver } from "../given";
import { Fingers } from "./Fingers";

export type Out = ResultOf<"clutch-cover">;
type Props = Face<"clutch-cover">;

/** What is typed beside the section, a row for each thing that is measured. */
const rows = [
  [
    ["step", "step of the face"],
    ["step_min", "from"],
    ["step_max", "to"],
    ["spring.fitted_deflection", "pressed when new"],
  ],
  [
    ["thickness", "flywheel, thick"],
    ["least", "at least"],
    ["spread_max", "fingers, at most"],
  ],
  [
    ["cut", "off friction face"],
    ["cut_cover", "off cover's face"],
    ["diaphragm_ratio", "diaphragm ratio"],
  ],
  [
    ["dual_mass.turn_deg", "free turn, degrees"],
    ["dual_mass.turn_max_deg", "at most"],
    ["dual_mass.rock", "rock at the rim"],
    ["dual_mass.rock_max", "at most"],
  ],
  [
    ["spring.de", "diaphragm, outside"],
    ["spring.di", "to the slots"],
    ["spring.t", "thick"],
    ["spring.h0", "cone, free"],
  ],
] as const;

const taken = ["step", "step_min", "step_max", "thickness", "least", "spread_max", "cut", "cut_cover"];

/** Flywheel and cover in section: step, thickness and cut at the metal, the fingertips as they stand. */
function Drawing(p: Props) {
  const { title, out, input, step, rest, units } = p;
  const fingers = input.fingers ?? [];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over
          width={900}
          height={step ? 430 : 500}
          says={`Flywheel and cover in section. ${out?.says ?? "Not measured yet"}`}
          places={[...besides(p), ...fingersOf(p)]}
        >
          <Section
            cut={asQuantity(input.cut) !== undefined}
            cover={asQuantity(input.cut_cover) !== undefined}
          />
          <Changes out={out} units={units} />
          <Fingers y={step ? 340 : 403} heights={fingers.map((f) => heightOf(f, units))} high={out?.high} />
        </Over>
      </Frame>
      {rest([...taken, "diaphragm_ratio", "fingers", "dual_mass", ...(step ? [] : ["spring"])])}
    </>
  );
}

const heightOf = (said: unknown, units: Units): number | undefined => {
  const q = asQuantity(said);
  return q && inUnit(q, "mm", units);
};

const asks = (p: Props, path: string) => !p.step || asksFor(p, path);

/** A step's sheet of paper is narrower: what is typed there stands further apart. */
const apart = (p: Props) => (p.step ? { x: 165, y: 92 } : { x: 120, y: 68 });

/** At a step what the sheet says is said where it is judged: only what is asked is typed. */
const besides = (p: Props): PlaceOver[] =>
  rows.flatMap((row, j) =>
    row
      .filter(([path]) => asks(p, path))
      .map(([path, label], i) => ({
        x: (p.step ? 500 : 455) + apart(p).x * i,
        y: 16 + apart(p).y * j,
        shows: <GivenAt face={p} path={path} label={label} />,
      })),
  );

/** Where the height of each fingertip is typed; one more than there are, six at first. */
const fingersOf = (p: Props): PlaceOver[] =>
  Array.from({ length: p.step ? 2 : Math.max(6, (p.input.fingers?.length ?? 0) + 1) }, (_, i) => ({
    x: 75 + apart(p).x * (i % 7),
    y: 408 - (p.step ? 63 : 0) + 62 * Math.floor(i / 7),
    shows: (
      <GivenAt
        face={p}
        path={`fingers[${i}]`}
        label={p.step ? (["lowest fingertip", "highest"][i] ?? "") : `finger ${i + 1}`}
      />
    ),
  }));

/** Flywheel, disc, plate and cover above the axis; what comes off is dashed. */
const Section = ({ cut, cover }: { cut: boolean; cover: boolean }) => (
  <g className="stroke-ink fill-none" strokeWidth="1.8">
    <path d="M70 30H170V88H150V250H70z" className="fill-paper" />
    <path d="M152 100H166V238H152z" className="fill-tint" />
    <path d="M168 96H206V242H168z" className="fill-sheet" />
    <path d="M170 40H196V32H262V120" />
    <path d="M248 92L206 118M248 92L262 300" strokeWidth="3" />
    <path d="M272 280H300V316H272z" className="fill-sheet" />
    <path d="M40 326H330" strokeDasharray="16 3 3 3" strokeWidth="0.8" className="stroke-quiet" />
    <path d="M150 262V276M170 262V276M120 270H150M200 270H170" strokeWidth="1" />
    {cut && <path d="M142 88V250" className="stroke-blue" strokeDasharray="6 4" />}
    {cover && <path d="M160 30V88" className="stroke-blue" strokeDasharray="6 4" />}
    <g stroke="none" fontSize="12" className="fill-quiet!">
      <text x="78" y="24">
        flywheel
      </text>
      <text x="205" y="24">
        cover
      </text>
      <text x="206" y="274">
        step
      </text>
      <text x="304" y="302">
        bearing
      </text>
    </g>
  </g>
);

/** What the cut changes: the step, the clamp, and where the fingertips go. */
function Changes({ out, units }: { out: Out | undefined; units: Units }) {
  const says = [
    out?.step_after && `step then ${sayQ(out.step_after, units)}`,
    typeof out?.clamp_percent === "number" && `clamp then ${Math.round(out.clamp_percent)} %`,
    out?.fingers_move && `fingertips ${sayQ(unsigned(out.fingers_move), units)}`,
    out?.fingers_move && `${out.fingers_move.value < 0 ? "from" : "toward"} the bearing`,
  ].filter((x) => typeof x === "string");
  return (
    <g className="fill-blue!" fontSize="13">
      {says.map((x, i) => (
        <text key={x} x="278" y={70 + 20 * i} className="fill-blue!">
          {x}
        </text>
      ))}
    </g>
  );
}

const judged = [
  ["spread_verdict", "Fingertips"],
  ["step_verdict", "Step as it is"],
  ["step_after_verdict", "Step after the cut"],
  ["thickness_verdict", "Thickness after the cut"],
  ["turn_verdict", "Dual mass, free turn"],
  ["rock_verdict", "Dual mass, rock"],
] as const;

/** Each thing with its verdict, and what to do. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  const shown = judged.filter(([key]) => out[key] !== "none");
  return (
    <>
      {out.allowance && (
        <BigFigure label="May still come off the flywheel" value={out.allowance} units={units} />
      )}
      <ul>
        {shown.map(([key, name]) => (
          <li key={key} className="flex justify-between border-b border-hair py-1">
            <span className="text-quiet">{name}</span>
            <Verdict verdict={out[key]} units={units} />
          </li>
        ))}
      </ul>
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Straightedge over the cover's face, depth gauge to the friction face. Then the fingertips, bolted.",
  wrong:
    "A cover pulled down on one side lifts the fingers of the other. Burnt spots stay proud after a cut.",
  why: "A cut lets the diaphragm out as wear does. Cut both faces alike, and the clamp stays.",
};

export default bench<"clutch-cover">({ calc: "clutch-cover", Drawing, Meaning });
