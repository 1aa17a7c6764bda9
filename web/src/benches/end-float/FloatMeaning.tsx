import { inUnit, paired, say, sayNumber } from "../../model/quantity";
import { expectedFloat } from "../../model/results";
import type { Quantity, Trial, Units } from "../../model/types";
import { Finding } from "../../parts/Finding";
import { NumberLine } from "../../parts/NumberLine";
import { Verdict } from "../../parts/Verdict";
import type { AtStep } from "../bench";
import type { FloatOut } from ".";
import { several } from "../../model/several";

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
  const expected = expectedFloat(trial?.expected);
  const limit = (q: Quantity | undefined) => q && inUnit(q, mean.unit, units);
  return (
    <>
      <Floats float={out.float} verdict={out.verdict} units={units} preview={preview} />
      <NumberLine
        value={mean.value}
        uncertainty={out.float.uncertainty?.value ?? 0}
        {...limitsOf(limit(limits?.min), limit(limits?.max))}
        unit={mean.unit}
        verdict={out.verdict}
        decimals={units?.find((x) => x.symbol === mean.unit)?.decimals ?? 2}
      />
      {expected && !preview && (
        <p className="text-note">
          <span className="text-quiet">Expected</span> {say(expected, units)},{" "}
          <span className="text-quiet">measured</span> {say(mean, units)}
        </p>
      )}
      {out.findings.map((f) => (
        <Finding key={f.says} says={f.says} />
      ))}
    </>
  );
}

type FloatsProps = Pick<Props, "units" | "preview"> & {
  float: FloatOut["float"];
  verdict: FloatOut["verdict"];
};

/** By how much the shaft floats, how sure that is, and its verdict. */
function Floats({ float: f, verdict, units, preview }: FloatsProps) {
  const other = paired(f.mean, units);
  return (
    <div aria-live="polite">
      <p className="text-quiet text-small">{preview ? "End float with this reading" : "End float"}</p>
      <p className="font-mono font-medium text-figure leading-none tracking-tight flex flex-wrap items-baseline gap-x-2.5">
        {sayNumber(f.mean, units, 1)}
        <span className="text-head tracking-normal whitespace-nowrap">
          {f.uncertainty ? `± ${sayNumber(f.uncertainty, units, 1)} ` : ""}
          {f.mean.unit}
        </span>
      </p>
      <p className="text-quiet mt-1.5 text-small">
        {other && `${say(other, units)}, `}
        {several(f.n, "reading")}
        {f.rests_on_one_reading && " (one reading only)"}
      </p>
      <p className="mt-2">
        <Verdict verdict={verdict} beyond={f.beyond} units={units} />
      </p>
    </div>
  );
}

function limitsOf(lower: number | undefined, upper: number | undefined) {
  return { ...(lower !== undefined && { lower }), ...(upper !== undefined && { upper }) };
}
