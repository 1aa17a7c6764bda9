import { inputOf, resultOf } from "./results";
import type { WeighedView } from "./types";

export type Estimate = {
  parts: number;
  fluids: number;
  outside: number;
  hours: number;
  rate: number;
  work: number;
  half: number;
  nine: number;
};

type Range = { low: number; likely?: number | null; high: number };

const usual = (r: Range | undefined) => (r ? (r.likely ?? (r.low + r.high) / 2) : 0);

/**
 * What a way comes to on the bill, from what was weighed: parts and work as usual,
 * and what half and nine in ten stay below; the days a vehicle stands are the
 * owner's loss, not the shop's work.
 */
export function estimateOf(weighed: readonly WeighedView[] | undefined, way: string): Estimate | undefined {
  const w = weighed?.find((x) => x.calc === "decide");
  if (!w) return undefined;
  const input = inputOf("decide", w.input);
  const option = input.options?.find((o) => o.id === way);
  const out = resultOf("decide", w.result)?.options.find((o) => o.id === way);
  if (!option || !out) return undefined;
  const parts = usual(option.parts);
  const hours = usual(option.labour_hours);
  const rate = input.hourly_rate ?? 0;
  const standing = (input.cost_per_day ?? 0) * out.days_p50;
  return {
    parts,
    fluids: usual(option.fluids),
    outside: usual(option.outside),
    hours,
    rate,
    work: hours * rate,
    half: out.cost_p50 - standing,
    nine: out.cost_p90 - standing,
  };
}

/** A sum to ask for: what nine in ten stay below, rounded up to what one says aloud. */
export function sumToAsk(nine: number): number {
  const step = nine < 200 ? 10 : nine < 2000 ? 50 : 100;
  return Math.ceil(nine / step) * step;
}
