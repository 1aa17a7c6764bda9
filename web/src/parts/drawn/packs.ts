import { asQuantity, inUnit, say } from "../../model/quantity";
import type { Quantity, Units } from "../../model/types";

/** A pack as it is and as it would become, in millimetres, with the words for both. */
export type PackDrawn = {
  is: number;
  becomes?: number | undefined;
  says: string;
  becomesSays?: string | undefined;
};

/** A pack that is known, and what it should become, to be drawn. */
export function packOf(said: unknown, then: Quantity | undefined, units: Units): PackDrawn | undefined {
  const is = asQuantity(said);
  if (!is) return undefined;
  const mm = (q: Quantity) => inUnit(q, "mm", units);
  return {
    is: mm(is),
    says: say(is, units),
    ...(then && { becomes: mm(then), becomesSays: say(then, units) }),
  };
}
