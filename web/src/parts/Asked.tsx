import { useState } from "react";
import { useUnits } from "../data/calc";
import type { Quantity } from "../model/types";
import { strange } from "../model/strange";

/** Asks once before a value an order away from those beside it is taken; the same again is meant so. */
export function useAsked(typed: string, unit: string, beside: readonly Quantity[]) {
  const units = useUnits().data;
  const [asked, setAsked] = useState("");
  const question = strange(typed, unit, beside, units);
  const meant = `${typed} ${unit}`;
  return {
    question: asked === meant ? question : undefined,
    /** True when it may be taken; otherwise the question shows. */
    may() {
      if (!question || asked === meant) return true;
      setAsked(meant);
      return false;
    },
  };
}

export function Asked({ question }: { question: string | undefined }) {
  if (!question) return null;
  return (
    <p role="alert" className="border-l-5 border-undecided pl-3 mt-2.5">
      <b>{question}</b> If so, press Enter again. If not, correct it or add the unit.
    </p>
  );
}
