import { inUnit } from "../model/quantity";
import type { Quantity, Units, Verdict } from "../model/types";
import { NumberLine } from "./NumberLine";

type Props = {
  value: Quantity;
  uncertainty?: Quantity | undefined;
  min?: Quantity | undefined;
  max?: Quantity | undefined;
  verdict: Verdict;
  units: Units;
};

/** A quantity between its limits, all of them on one scale in its own unit. */
export const LimitLine = ({ value, uncertainty, min, max, verdict, units }: Props) => (
  <NumberLine
    value={value.value}
    uncertainty={uncertainty?.value ?? 0}
    {...(min && { lower: inUnit(min, value.unit, units) })}
    {...(max && { upper: inUnit(max, value.unit, units) })}
    unit={value.unit}
    verdict={verdict}
    decimals={units?.find((u) => u.symbol === value.unit)?.decimals ?? 2}
  />
);
