import { inUnit, paired, say, sayNumber } from "../../model/quantity";
import { expectedFloat } from "../../model/results";
import type { Quantity, Trial, Units } from "../../model/types";
import { Finding } from "../../parts/Finding";
import { NumberLine } from "../../parts/NumberLine";
import { Verdict } from "../../parts/Verdict";
import type { AtStep } from "../bench";
import type { FloatOut } from ".";

type Props = {
  out: FloatOut;
  units: Units;
  preview: boolean;
  trial: Trial | undefined;
  limits: AtStep["limits"];
};

/** What the readings say: value, uncertainty, verdict, and the finding they raise. */
export function FloatMeaning({ out, units, preview, trial, limits }: Props) {
  const mean = out.float.mean;
  const u = out.float.uncertainty;
  const other = paired(mean, units);
  const { verdict } = out;
  const decimals = units?.find((x) => x.symbol === mean.unit)?.decimals ?? 2;
  const expected = expectedFloat(trial?.expected);
  const limit = (q: Quantity | undefined) => q && inUnit(q, mean.unit, units);
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">
          {preview ? "With this reading the shaft floats by" : "The shaft floats by"}
        </p>
        <p className="font-mono font-medium text-figure leading-none tracking-tight flex flex-wrap items-baseline gap-x-2.5">
          {sayNumber(mean, units, 1)}
          <span className="text-head tracking-normal whitespace-nowrap">
            {u ? `± ${sayNumber(u, units, 1)} ` : ""}
            {mean.unit}
          </span>
        </p>
        <p className="text-quiet mt-1.5 text-small">
          {other && `${say(other, units)}, `}
          {out.float.n} {out.float.n === 1 ? "reading" : "readings"}
          {out.float.rests_on_one_reading && "; it rests on this one"}
        </p>
        <p className="mt-2">
          <Verdict verdict={verdict} beyond={out.float.beyond} units={units} />
        </p>
      </div>
      <NumberLine
        value={mean.value}
        uncertainty={u?.value ?? 0}
        {...limitsOf(limit(limits?.min), limit(limits?.max))}
        unit={mean.unit}
        verdict={verdict}
        decimals={decimals}
      />
      {expected && !preview && (
        <p className="text-note">
          <span className="text-quiet">Expected</span> {say(expected, units)},{" "}
          <span className="text-quiet">obtained</span> {say(mean, units)}
        </p>
      )}
      {out.findings.map((f) => (
        <Finding key={f.says} says={f.says} />
      ))}
    </>
  );
}

function limitsOf(lower: number | undefined, upper: number | undefined) {
  return { ...(lower !== undefined && { lower }), ...(upper !== undefined && { upper }) };
}
