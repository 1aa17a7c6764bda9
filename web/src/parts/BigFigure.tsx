import { sayNumber } from "../model/quantity";
import type { Quantity, Units, Verdict as V } from "../model/types";
import { Verdict } from "./Verdict";

type Props = {
  label: string;
  value: Quantity;
  uncertainty?: Quantity | undefined;
  /** Decimals beyond what an instrument of the unit shows. */
  more?: number;
  /** What stands below it, small: the other unit, which way. */
  below?: string;
  /** Missing where there is nothing to judge it by. */
  verdict?: V | undefined;
  beyond?: Quantity | undefined;
  units: Units;
};

/** The one number that matters, how sure it is, and its verdict. */
export const BigFigure = ({ label, value, uncertainty, more = 0, below, verdict, beyond, units }: Props) => (
  <div aria-live="polite">
    <p className="text-quiet text-small">{label}</p>
    <p className="font-mono font-medium text-figure leading-none tracking-tight flex flex-wrap items-baseline gap-x-2.5">
      {sayNumber(value, units, more)}
      <span className="text-head tracking-normal whitespace-nowrap">
        {uncertainty && `± ${sayNumber(uncertainty, units, more)} `}
        {value.unit}
      </span>
    </p>
    {below && <p className="text-quiet mt-1.5 text-small">{below}</p>}
    {verdict && verdict !== "none" && (
      <p className="mt-2">
        <Verdict verdict={verdict} beyond={beyond} units={units} />
      </p>
    )}
  </div>
);
