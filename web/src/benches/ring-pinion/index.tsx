import { asQuantity, say as sayQ, unsigned } from "../../model/quantity";
import { merged, packWords } from "../../model/pack";
import type { InputOf, ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { begun } from "../../model/words";
import { BigFigure } from "../../parts/BigFigure";
import { AxleCut } from "../../parts/drawn/AxleCut";
import { packOf } from "../../parts/drawn/packs";
import { Taught } from "../../parts/drawn/Taught";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { FitPack } from "../fit";
import { Assemblies } from "./Assemblies";
import { Facts } from "../../parts/Facts";

export type Out = ResultOf<"ring-pinion">;
export type Trials = NonNullable<Partial<InputOf<"ring-pinion">>["trials"]>;
type Props = Face<"ring-pinion">;

/** The axle cut open with its three packs, and each assembly as a column beside the next one. */
function Drawing(p: Props) {
  const { title, out, input, step, units, rest } = p;
  const trials = input.trials ?? [];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <AxleCut
          {...packsOf(trials.at(-1), out, units)}
          ring={input.ring_side === "right" ? "right" : "left"}
          move={0}
          label={`Axle cut open. ${out?.says ?? "Nothing assembled yet"}`}
        >
          {out && <Expected out={out} units={units} />}
        </AxleCut>
      </Frame>
      <Assemblies trials={trials} out={out} face={p} />
      {rest(["trials"])}
    </>
  );
}

/** The packs in it, and what each should become. */
function packsOf(last: Trials[number] | undefined, out: Out | undefined, units: Units) {
  const then = out && !stays(out) ? out : undefined;
  return {
    pinion: packOf(last?.pinion_shim, then?.pinion_shim, units),
    left: packOf(last?.left, then?.left, units),
    right: packOf(last?.right, then?.right, units),
  };
}

/** It stands, or is too close to tell: nothing is moved. */
const stays = (out: Out) => out.stands === "in" || out.stands === "undecided";

/** What every reading should be after the next assembly, in the drawing's corner. */
const Expected = ({ out, units }: { out: Out; units: Units }) => (
  <g>
    {(
      [
        ["depth", out.expected_depth],
        ["backlash", out.expected_backlash],
        ["side play", out.expected_side_play],
      ] as const
    ).map(([name, q], i) => (
      <g key={name} transform={`translate(500 ${110 + 40 * i})`}>
        <text fontSize="12" className="fill-quiet!">
          {stays(out) ? name : `${name}, expected`}
        </text>
        <text y="18" fontSize="15" className={`font-mono ${stays(out) ? "" : "fill-blue! font-semibold"}`}>
          {q ? sayQ(q, units) : "read it"}
        </text>
      </g>
    ))}
  </g>
);

/** Where it stands and the next assembly in full. */
function Meaning({ out, input, units, step }: Props) {
  if (!out) return null;
  const backlash = asQuantity(input.trials?.at(-1)?.backlash) ?? out.expected_backlash;
  return (
    <>
      {backlash && (
        <BigFigure
          label="Backlash now; depth and side play count too"
          value={backlash}
          verdict={out.stands}
          units={units}
        />
      )}
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <Next out={out} units={units} />
      {!stays(out) && out.packs?.length === 3 && (
        <FitPack pack={merged(out.packs.flatMap((x) => x.pieces))} step={step} />
      )}
      <Taught k={out.k} />
      {out.gives && <Gives of={out.gives} />}
      <Method out={out} help={help} />
    </>
  );
}

/** What the axle has taught of its housing. */
const Gives = ({ of }: { of: NonNullable<Out["gives"]> }) => (
  <p className="text-quiet text-note mt-1">
    The housing lets the ring go by {Math.round(100 * of.value)} % of the preload, give or take{" "}
    {Math.round(100 * of.spread)} %.
  </p>
);

const packs = [
  ["pinion_shim", "pinion shim"],
  ["left", "left pack"],
  ["right", "right pack"],
] as const;

type MadeOfProps = { pack: NonNullable<Out["packs"]>[number] | undefined; units: Units };

/** The shims of the drawer that make a pack, and how far they miss it. */
const MadeOf = ({ pack, units }: MadeOfProps) =>
  pack && (
    <span className="block text-small text-quiet">
      {packWords(pack.pieces, (q) => sayQ(q, units))}
      {Math.abs(pack.off.value) > 1e-6 &&
        `, ${sayQ(unsigned(pack.off), units)} ${pack.off.value > 0 ? "over" : "short"}`}
    </span>
  );

/** What to put together next, or that nothing is to be moved. */
function Next({ out, units }: { out: Out; units: Units }) {
  if (stays(out)) return <p className="border-t border-ink pt-3">{begun(out.says)}.</p>;
  return (
    <div className="border-t border-ink pt-3">
      <h3 className="text-head">Next assembly</h3>
      <Facts
        large
        of={packs.map(([key, name]) => [
          name,
          <span key={key}>
            {sayQ(out[key], units)}
            <MadeOf pack={out.packs?.find((x) => x.where === key)} units={units} />
          </span>,
        ])}
      />
      {out.expected_backlash && out.expected_backlash_spread ? (
        <p className="mt-2 text-note">
          Expect a backlash of {sayQ(out.expected_backlash, units)}, give or take{" "}
          {sayQ(out.expected_backlash_spread, units)}. Right in {Math.min(99, Math.round(100 * out.chance))}{" "}
          of 100 cases; if not, one more.
        </p>
      ) : (
        <p className="mt-2 text-note">
          The ring a little away: flanks that touch read no backlash, and then nobody knows how far to go.
        </p>
      )}
    </div>
  );
}

const help: HelpText = {
  hold: "One pack changed at a time, caps at torque, a few turns before reading. Type every assembly.",
  wrong: "Dirt under the ring or swapped caps move it all at once: then no shim helps.",
  why: "Depth and ring both move both flanks. Each assembly teaches how this axle answers.",
};

export default bench<"ring-pinion">({ calc: "ring-pinion", Drawing, Meaning });
