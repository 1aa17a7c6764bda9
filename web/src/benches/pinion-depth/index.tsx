import { asQuantity, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { begun } from "../../model/words";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { asksFor, GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"pinion-depth">;
type Props = Face<"pinion-depth">;

/** The places of the drawing at which its figures are typed. */
const figures = [
  { path: "gauge", label: "depth tool reads", x: 500, y: 20 },
  { path: "constant", label: "disc and arbor", x: 645, y: 20 },
  { path: "nominal", label: "mounting distance", x: 790, y: 20 },
  { path: "mark", label: "mark on this pinion", x: 790, y: 120 },
  { path: "trial_shim", label: "shim in it now", x: 500, y: 250 },
  { path: "old_shim", label: "old shim", x: 645, y: 250 },
  { path: "old_mark", label: "mark on the old", x: 790, y: 250 },
] as const;

/** The carrier bore, the tool from its axis to the pinion's head, and the shim that decides how far that is. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const places: PlaceOver[] = figures
    .filter(({ path }) => !step || asksFor(p, path) || asQuantity(p.given(path).says))
    .map(({ path, label, x, y }) => ({ x, y, shows: <GivenAt face={p} path={path} label={label} /> }));
  const shim = out?.shim_by_tool ?? out?.shim_by_marks;
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over
          width={900}
          height={330}
          says={`Pinion depth. ${out?.says ?? "Not measured yet"}`}
          places={places}
        >
          <Cut head={input.shim_side !== "flange"} />
          <Measured out={out} p={p} />
          {shim && (
            <text
              x="330"
              y="300"
              fontSize="16"
              textAnchor="middle"
              className="font-mono font-semibold fill-blue!"
            >
              shim {sayQ(shim, units)}
            </text>
          )}
        </Over>
      </Frame>
      {rest(figures.map((f) => f.path))}
    </>
  );
}

/** Bore, pinion, bearing and shim, in outline. */
const Cut = ({ head }: { head: boolean }) => (
  <g className="stroke-ink fill-none" strokeWidth="2">
    <path d="M40 150A78 78 0 0 1 190 110M40 150A78 78 0 0 0 190 190" strokeWidth="2.4" />
    <path d="M20 150H230M115 55V245" strokeDasharray="14 4 3 4" className="stroke-quiet" strokeWidth="1.2" />
    <path d="M230 100L290 118V182L230 200Z" className="fill-sheet" />
    <path d="M290 132H440V168H290" className="fill-sheet" />
    <rect x="300" y="92" width="30" height="40" className="fill-sheet" />
    <rect x="300" y="168" width="30" height="40" className="fill-sheet" />
    <circle cx="315" cy="112" r="12" />
    <circle cx="315" cy="188" r="12" />
    <path
      d={head ? "M296 92V132M296 168V208" : "M334 92V132M334 168V208"}
      className="stroke-blue"
      strokeWidth="5"
    />
    <path d="M340 88H400V128M340 212H400V172" strokeDasharray="5 4" />
  </g>
);

/** Axis to head as it should be and as it is, one below the other. */
const Measured = ({ out, p }: { out: Out | undefined; p: Props }) => (
  <>
    {out?.required && (
      <Distance y={30} says={`wants ${sayQ(out.required, p.units)}`} look="stroke-blue fill-blue!" />
    )}
    {out?.measured && <Distance y={62} says={`is ${sayQ(out.measured, p.units)}`} look="stroke-ink" />}
  </>
);

const Distance = ({ y, says, look }: { y: number; says: string; look: string }) => (
  <g className={look}>
    <path d={`M115 ${y}H230M115 ${y - 5}v10M230 ${y - 5}v10`} strokeWidth="1.6" />
    <text x="240" y={y + 5} fontSize="14" className="font-mono stroke-none!">
      {says}
    </text>
  </g>
);

/** The shim by the tool and by the marks, and whether they agree. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  const ways = [
    ["by the tool", out.shim_by_tool],
    ["by the marks", out.shim_by_marks],
  ] as const;
  return (
    <>
      <dl aria-live="polite" className="flex flex-col gap-2">
        {ways.map(
          ([name, shim]) =>
            shim && (
              <div key={name}>
                <dt className="text-quiet text-small">Shim {name}</dt>
                <dd className="font-mono font-medium text-figure leading-none">{sayQ(shim, units)}</dd>
              </div>
            ),
        )}
      </dl>
      {out.difference && (
        <p className="text-note">
          {begun(`tool and marks differ by ${sayQ(out.difference, units)}`)}; over 2 thou one of them is
          doubtful.
        </p>
      )}
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Tool in the carrier bores with the caps at torque, feeler or plunger on the ground face of the head.",
  wrong:
    "A burr on the head or a bore with dirt falsifies all of it. " +
    "Plus and minus of the mark differ between makers: see the sheet.",
  why:
    "The mark says how far this pinion wants to stand from what is usual. " +
    "Tool and marks find the same shim by two ways.",
};

export default bench<"pinion-depth">({ calc: "pinion-depth", Drawing, Meaning });
