import type { ResultOf } from "../../model/results";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { Verdict, VerdictShape } from "../../parts/Verdict";
import { bench, type Face } from "../bench";
import { asksFor, GivenAt } from "../given";

type Out = ResultOf<"gear-matrix">;
type Cell = Out["cells"][number];
type Props = Face<"gear-matrix">;

const figures = [
  ["synchro_gap", "synchroniser gap"],
  ["float", "gear float"],
  ["fork_clearance", "fork clearance"],
  ["detent", "detent pull"],
] as const;

/** What a cell asks for, as one would say it. */
const asks: Record<string, string> = {
  ring: "new ring",
  thrust_washer: "new washer",
  fork_pad: "new pad",
  detent_spring: "new spring",
  wrong_part: "wrong part",
  read_again: "read again",
  limit: "no limit known",
};

/**
 * Gears across, what was measured down: each figure with its verdict, the life left as a bar, and what it
 * asks for.
 */
function Drawing(p: Props) {
  const { title, out, input, rest } = p;
  const gears = input.gears ?? [];
  const rows = figures.filter(
    ([what]) => !p.step || gears.some((g, i) => g[what] || asksFor(p, `gears[${i}].${what}`)),
  );
  return (
    <>
      <Frame label={title} wide>
        <table className="border-collapse">
          <caption className="sr-only">What was measured at each gear</caption>
          <thead>
            <tr>
              <th scope="col" className="font-normal text-quiet text-small text-left pr-3">
                bars: wear left
              </th>
              {gears.map((g, i) => (
                <th key={i} scope="col" className="font-mono font-medium text-head min-w-[96px] pb-1">
                  {g.gear}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([what, name]) => (
              <tr key={what}>
                <th scope="row" className="text-left font-normal text-note pr-3">
                  {name}
                </th>
                {gears.map((g, i) => (
                  <td key={i} className="border border-ink p-0 align-top">
                    <Measured face={p} i={i} name={name} what={what} cell={cellOf(out, g.gear, what)} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Frame>
      {rest(["gears"])}
    </>
  );
}

const cellOf = (out: Out | undefined, gear: string | undefined, what: string) =>
  out?.cells.find((c) => c.gear === gear && c.what === what);

const verdictOf = (cell: Cell | undefined) =>
  cell?.verdict === undefined || cell.verdict === "not_measured" ? "none" : cell.verdict;

type MeasuredProps = { face: Props; i: number; name: string; what: Cell["what"]; cell: Cell | undefined };

/** One figure of one gear, typed where it stands. */
function Measured({ face, i, name, what, cell }: MeasuredProps) {
  if (face.step && !asksFor(face, `gears[${i}].${what}`))
    return <p className="px-2 py-3 text-quiet text-small">not asked</p>;
  const verdict = verdictOf(cell);
  return (
    <div className="px-1 py-1">
      <div className="flex items-center gap-1.5 font-mono">
        <VerdictShape verdict={verdict} size={11} />
        <GivenAt
          face={face}
          path={`gears[${i}].${what}`}
          label={`${face.input.gears?.[i]?.gear ?? ""}, ${name}`}
          bare
        />
        <span className="sr-only">{verdict === "none" ? "" : verdict}</span>
      </div>
      <Life percent={cell?.life_percent ?? undefined} />
      <p className="text-small min-h-5">{cell?.asks && <b>{asks[cell.asks]}</b>}</p>
    </div>
  );
}

/** The wear that is left, as a bar from worn to new. */
function Life({ percent }: { percent: number | undefined }) {
  if (percent === undefined) return <p className="h-2" />;
  return (
    <svg
      width="88"
      height="8"
      viewBox="0 0 88 8"
      role="img"
      aria-label={`${Math.round(percent)} % of its wear left`}
    >
      <rect x="0.5" y="1.5" width="87" height="5" className="fill-none stroke-hair" />
      <rect x="0.5" y="1.5" width={(87 * percent) / 100} height="5" className="fill-quiet" />
    </svg>
  );
}

/** The whole in a word, the parts that are asked for, and why. */
function Meaning({ out }: Props) {
  if (!out) return null;
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">All gears together</p>
        <p className="mt-1">
          <Verdict verdict={out.verdict} />
        </p>
      </div>
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold:
    "Feeler between ring and gear, ring pressed on by hand. " +
    "Float with the dial, forks with the feeler in their groove.",
  wrong: "A ring pressed on askew shows a gap that is not there.",
  why: "A ring without a gap does not brake any more, a fork without one burns.",
};

export default bench<"gear-matrix">({ calc: "gear-matrix", Drawing, Meaning });
