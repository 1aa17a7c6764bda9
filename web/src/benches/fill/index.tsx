import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import { BigFigure } from "../../parts/BigFigure";
import { Facts } from "../../parts/Facts";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { GivenRow } from "../given";

type Out = ResultOf<"fill">;
type Props = Face<"fill">;

const typed = [
  ["capacity", "holds"],
  ["residue", "stays behind"],
  ["purity", "new oil, share wanted"],
] as const;

const can = (i: number) =>
  [
    [`cans[${i}].size`, `can ${i + 1}`],
    [`cans[${i}].price`, `price (${i + 1})`],
  ] as const;

/** A glass a fill: the new oil over what is left of the old. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const many = Math.min(8, (input.cans?.length ?? 0) + 1);
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        {out && <Glasses of={out.after_each} />}
        {!step && <GivenRow face={p} fields={typed} />}
        {!step && Array.from({ length: many }, (_, i) => <GivenRow key={i} face={p} fields={can(i)} />)}
      </Frame>
      {rest(step ? [] : ["capacity", "residue", "purity", "cans"])}
    </>
  );
}

const Glasses = ({ of }: { of: Out["after_each"] }) => (
  <svg viewBox="0 0 900 230" className="w-full" role="img" aria-label="New oil after each fill">
    {of.map((share, i) => {
      const x = 60 + i * Math.min(130, 820 / of.length);
      return (
        <g key={i} fontSize="14">
          <rect x={x} y="40" width="56" height="130" className="fill-blue/25" />
          <rect x={x} y={40 + 130 * share} width="56" height={130 * (1 - share)} className="fill-ink/60" />
          <path d={`M${x} 30V170H${x + 56}V30`} className="stroke-ink fill-none" strokeWidth="2" />
          <text x={x + 28} y="192" textAnchor="middle" className="font-mono font-semibold">
            {(100 * share).toFixed(1)} %
          </text>
          <text x={x + 28} y="212" textAnchor="middle" fontSize="12" className="fill-quiet!">
            fill {i + 1}
          </text>
        </g>
      );
    })}
  </svg>
);

/** How often to fill, and what to buy. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label={out.fills === 1 ? "One fill" : `${out.fills} fills, together`}
        value={out.total}
        below={`${sayQ(out.total_litre, units)}, ${sayQ(out.total_us_quart, units)}, ${sayQ(out.total_imp_pint, units)}`}
        units={units}
      />
      <Facts
        of={[
          ["new oil at the end", `${(100 * out.purity).toFixed(1)} %`],
          ["to buy", out.buy?.map((b) => `${b.count} × ${sayQ(b.size, units)}`).join(" + ")],
          ["for", out.price?.toFixed(2)],
          ["left over", out.left_over && sayQ(out.left_over, units)],
        ]}
      />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Drain hot, level, till it drips. What stays behind: what the sheet holds less what came out.",
  wrong: "An oil never named on a tag may be of the wrong kind: flush before you trust it.",
  why: "Each fill dilutes what stayed behind by the same share.",
};

export default bench<"fill">({ calc: "fill", Drawing, Meaning });
