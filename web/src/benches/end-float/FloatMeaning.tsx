import { inUnit, paired, say } from "../../model/quantity";
import { expectedFloat } from "../../model/results";
import type { Quantity, Trial, Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Finding } from "../../parts/Finding";
import { type HelpText, Method } from "../../parts/Method";
import { NumberLine } from "../../parts/NumberLine";
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
      <Method out={out} help={help} />
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
    <BigFigure
      label={preview ? "End float with this reading" : "End float"}
      value={f.mean}
      uncertainty={f.uncertainty}
      more={1}
      below={`${other ? `${say(other, units)}, ` : ""}${several(f.n, "reading")}${f.rests_on_one_reading ? " (one reading only)" : ""}`}
      verdict={verdict}
      beyond={f.beyond}
      units={units}
    />
  );
}

function limitsOf(lower: number | undefined, upper: number | undefined) {
  return { ...(lower !== undefined && { lower }), ...(upper !== undefined && { upper }) };
}

const help: HelpText = {
  hold: "Pull out, zero the dial, push in, read. Turn a quarter and do it again.",
  wrong: "A shaft that is not pushed home reads too little. Oil under a washer reads too much.",
  why: "What the shaft floats less what it should float is what the pack has to grow by.",
};
