/** Where a clock position lies on a circle, 12 at the top, clockwise. */
export function atClock(clock: number, r: number) {
  const t = (clock / 12) * 2 * Math.PI;
  return { x: r * Math.sin(t), y: -r * Math.cos(t) };
}
