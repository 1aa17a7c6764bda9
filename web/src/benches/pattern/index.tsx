import { useState } from "react";
import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { begun } from "../../model/words";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { Verdict } from "../../parts/Verdict";
import { bench, type Face, mayAt } from "../bench";
import { dabAt, type Flank, flanks, toDab } from "./dabs";
import { Tooth } from "./Tooth";

type Out = ResultOf<"pattern">;
type Props = Face<"pattern">;

/** Both flanks of a tooth, dabbed where the compound was rubbed off; the ring where one wants it. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const [over, lay] = useState(true);
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <div className="grid grid-cols-2 max-[820px]:not-print:grid-cols-1 gap-4 p-2">
          {flanks.map((flank) => (
            <Tooth
              key={flank}
              flank={flank}
              dab={dabAt(p, flank)}
              even={input.cutting === "face_hobbed"}
              onDab={toDab(p, flank)}
              photo={over ? step?.photo : undefined}
            />
          ))}
        </div>
        {step && mayAt(step, "note") && (
          <div className="px-2 flex flex-wrap items-center gap-4 text-note">
            {step.camera}
            {step.photo && (
              <label className="min-h-11 flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={over}
                  onChange={(e) => lay(e.target.checked)}
                />
                Dab over the photograph
              </label>
            )}
          </div>
        )}
        <p className="px-2 pb-1 text-quiet text-small">
          Touch where it bears, or go there with the arrow keys; plus and minus make it longer and shorter.
          Toe is the end toward the middle of the ring.
        </p>
        {out && <p className="sr-only">{moveOf(out, p)}</p>}
      </Frame>
      {rest(step ? [] : ["drive", "coast"])}
    </>
  );
}

const moveOf = (out: Out, { units }: Props) =>
  out.step ? `move the ${out.shim} ${out.way} by ${sayQ(out.step, units)}` : out.says;

/** How far pinion and ring stand from where they should, and which moves first. */
function Meaning({ out, input }: Props) {
  if (!out) return null;
  const weak = flanks.filter((f: Flank) => (input[f]?.length ?? 1) < faint);
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">What the pattern says</p>
        <p className="text-head leading-snug font-semibold">{begun(stands(out))}.</p>
        <p className="mt-2">
          <Verdict verdict={out.verdict} />
        </p>
      </div>
      <Errors out={out} />
      {out.crossed && (
        <Finding says="drive and coast contradict each other: look again which flank is which" />
      )}
      {weak.length > 0 && (
        <Finding
          says={`the ${weak.join(" and ")} side is faint: put on compound, brake the ring and dab again`}
        />
      )}
      <NextMove says={out.says}>
        <p className="mt-2 text-note">
          {out.confidence > 0.5
            ? `Drive and coast fit one cause in ${Math.round(100 * out.confidence)} of 100.`
            : "Drive and coast hardly fit one cause: dab again before you move anything."}
        </p>
      </NextMove>
      <Method out={out} help={help} />
    </>
  );
}

/** A pattern shorter than this share of the tooth tells little. */
const faint = 0.2;

const far = (x: number) => (Math.abs(x) < 0.15 ? "right" : Math.abs(x) < 0.5 ? "a little" : "much");

const standing = (what: string, x: number, ways: readonly [string, string]) =>
  far(x) === "right"
    ? `the ${what} stands right`
    : `the ${what} stands ${far(x)} too far ${x > 0 ? ways[0] : ways[1]}`;

const stands = (out: Out) =>
  [standing("pinion", out.pinion_out, ["out", "in"]), standing("ring", out.ring_out, ["away", "in"])].join(
    ", ",
  );

/** Both errors as marks on a line from in to out. */
const Errors = ({ out }: { out: Out }) => (
  <svg viewBox="0 0 300 92" className="w-full" role="img" aria-label={stands(out)}>
    {(
      [
        ["pinion", out.pinion_out],
        ["ring", out.ring_out],
      ] as const
    ).map(([name, value], i) => {
      const y = 26 + 40 * i;
      const x = 170 + 110 * Math.max(-1, Math.min(1, value));
      return (
        <g key={name}>
          <text x="0" y={y + 5} fontSize="14">
            {name}
          </text>
          <path d={`M60 ${y}H280M170 ${y - 8}v16`} className="stroke-ink" strokeWidth="1.4" />
          <circle cx={x} cy={y} r="7" className={Math.abs(x - 170) > 17 ? "fill-out" : "fill-in"} />
        </g>
      );
    })}
    <text x="60" y="88" fontSize="12" className="fill-quiet!">
      too far in
    </text>
    <text x="280" y="88" fontSize="12" textAnchor="end" className="fill-quiet!">
      too far out
    </text>
  </svg>
);

const help: HelpText = {
  hold:
    "Compound on three or four teeth, thin. " +
    "Turn both ways with the ring braked by hand, then look at both flanks.",
  wrong: "Without a load the compound only smears. Drive and coast mixed up send every move the wrong way.",
  why: "The pinion moves the pattern mainly between root and face, the ring along the tooth.",
};

export default bench<"pattern">({ calc: "pattern", Drawing, Meaning });
