import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Quantity } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { asksFor, GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"clutch-release">;
type Props = Face<"clutch-release">;

/** The joints of the chain, from the pedal to the plate: where each stands, and how far it moves. */
const joints = [
  { x: 95, name: "pedal", given: ["pedal_travel", "free_play", "pedal_ratio"] },
  { x: 255, name: "master", given: ["master_bore"] },
  { x: 410, name: "slave", given: ["slave_bore", "slave_travel"] },
  { x: 565, name: "fork", given: ["fork_ratio"] },
  { x: 700, name: "bearing", given: ["diaphragm_ratio"] },
  { x: 830, name: "plate", given: ["faces", "required_per_face", "most_per_face"] },
] as const;

const labels: Record<string, string> = {
  pedal_travel: "pedal travel",
  free_play: "of it free",
  pedal_ratio: "ratio",
  master_bore: "bore",
  slave_bore: "bore",
  slave_travel: "travel seen",
  fork_ratio: "ratio",
  diaphragm_ratio: "diaphragm ratio",
  faces: "faces",
  required_per_face: "wanted at each",
  most_per_face: "at most",
};

/** How far each joint moves, worked out from the pedal on. */
const moves = (out: Out | undefined): Record<string, Quantity | undefined> => ({
  master: out?.push_rod,
  slave: out?.slave_travel,
  bearing: out?.bearing_travel,
  plate: out?.lift,
});

/** The release chain as levers and pistons, each joint with its travel. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const travel = moves(out);
  const cable = !asQuantity(input.master_bore) && !asQuantity(input.slave_bore);
  const places: PlaceOver[] = joints.flatMap(({ x, given }) =>
    given
      .filter((path) => step === undefined || p.given(path).says !== undefined || asksFor(p, path))
      .map((path, i) => ({
        x,
        y: 218 + 66 * i,
        shows: <GivenAt face={p} path={path} label={labels[path] ?? ""} />,
      })),
  );
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over width={920} height={420} says={sentence(out, p)} places={places}>
          <Chain cable={cable} />
          {joints.map(({ x, name }) => (
            <g key={name}>
              <text x={x} y="24" fontSize="15" textAnchor="middle" className="font-semibold">
                {name === "master" && cable ? "cable" : name === "slave" && cable ? "lever" : name}
              </text>
              {travel[name] && (
                <text
                  x={x}
                  y="205"
                  fontSize="16"
                  textAnchor="middle"
                  className="font-mono font-semibold fill-blue!"
                >
                  {sayQ(travel[name], units)}
                </text>
              )}
            </g>
          ))}
        </Over>
      </Frame>
      {rest(joints.flatMap((j) => j.given))}
    </>
  );
}

const sentence = (out: Out | undefined, p: Props) =>
  out
    ? `Release chain from pedal to plate; ${joints
        .flatMap(({ name }) => {
          const q = moves(out)[name];
          return q ? `${name} ${sayQ(q, p.units)}` : [];
        })
        .join(", ")}. ${out.says}`
    : "Release chain from pedal to plate, not measured yet";

/** Lever, pistons, fork, bearing and plate, one driving the next. */
const Chain = ({ cable }: { cable: boolean }) => (
  <g className="stroke-ink fill-none" strokeWidth="2">
    <path d="M95 50V185" strokeWidth="5" strokeLinecap="round" />
    <circle cx="95" cy="62" r="6" className="fill-sheet" />
    <path d="M80 185h30" strokeWidth="7" strokeLinecap="round" />
    <path d="M95 110H205" />
    {cable ? (
      <path d="M205 110C260 60 330 160 385 110" strokeWidth="3" />
    ) : (
      <>
        <Cylinder x={205} wide={100} high={40} />
        <path d="M305 110C330 110 330 110 360 110" strokeWidth="3" className="stroke-blue" />
        <Cylinder x={360} wide={100} high={50} />
      </>
    )}
    <path d="M460 110H560" />
    <path d="M565 70V165" strokeWidth="5" strokeLinecap="round" />
    <circle cx="565" cy="135" r="6" className="fill-sheet" />
    <path d="M565 160H676" />
    <rect x="676" y="120" width="44" height="52" className="fill-sheet" />
    <path d="M676 146h44M720 132L775 84M720 160L775 176" />
    <path d="M775 70V184M800 70V184" strokeWidth="6" />
    <path d="M845 60V194" strokeWidth="12" className="stroke-quiet" />
    <path d="M812 100h18m-6 -5l6 5l-6 5M812 150h18m-6 -5l6 5l-6 5" className="stroke-blue" />
  </g>
);

const Cylinder = ({ x, wide, high }: { x: number; wide: number; high: number }) => (
  <>
    <rect x={x} y={110 - high / 2} width={wide} height={high} className="fill-sheet" />
    <rect x={x + wide / 2 - 7} y={110 - high / 2} width="14" height={high} className="fill-ink" />
  </>
);

/** The clearance at each face against what it wants, and the next move. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  const shown = out.per_face ?? out.slave_travel;
  return (
    <>
      <BigFigure
        label={out.per_face ? "Clearance at each face" : "Travel at the slave"}
        value={shown}
        verdict={out.verdict}
        units={units}
        {...(out.pedal_needed && { below: `clear from ${sayQ(out.pedal_needed, units)} of pedal on` })}
      />
      {out.lost_fluid && <Finding says={out.lost_fluid} />}
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold:
    "Measure the pedal where the foot is, from rest to stop. " +
    "See the slave's rod move while somebody presses.",
  wrong:
    "Air and swollen hoses eat travel between master and slave. A worn fork or a bent lever eats it behind.",
  why:
    "Every joint multiplies the travel on and divides the force. " +
    "What is missing at the plate was lost at one of them.",
};

export default bench<"clutch-release">({ calc: "clutch-release", Drawing, Meaning });
