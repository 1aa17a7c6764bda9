/** Where a clock position lies on a circle, 12 at the top, clockwise. */
export function atClock(clock: number, r: number) {
  const t = (clock / 12) * 2 * Math.PI;
  return { x: r * Math.sin(t), y: -r * Math.cos(t) };
}

/**
 * The places of readings on the clock, in the order of turning; a second turn stands beside or below the
 * first.
 */
export function onClock(clocks: readonly number[], r: number, apart: { beside: number; below: number }) {
  return clocks.map((clock, i) => {
    const before = clocks.slice(0, i).filter((c) => c % 12 === clock % 12).length;
    const top = clock % 12 === 0;
    const at = atClock(clock, r);
    return {
      x: at.x + (top ? apart.beside * (before - 0.5) : 0),
      y: at.y + (top ? 0 : apart.below * before),
      says: `${clock} o'clock${before ? ", again" : ""}`,
    };
  });
}
