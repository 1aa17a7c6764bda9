/** After so long without a touch nobody was at the step; shorter rests are hands at work. */
export const idleAfter = 60 * 60_000;

/** How long somebody has been at a step: from opening it, or from coming back to it after a rest. */
export type Spent = { since: number; touched: number };

export const begun = (now: number): Spent => ({ since: now, touched: now });

/** Somebody touched the screen: after a long rest the time begins anew. */
export const touched = (s: Spent, now: number): Spent =>
  now - s.touched > idleAfter ? begun(now) : { ...s, touched: now };

/** Whole seconds until now, or until the rest began. */
export function seconds(s: Spent, now: number): number {
  const end = now - s.touched > idleAfter ? s.touched : now;
  return Math.max(0, Math.round((end - s.since) / 1000));
}
