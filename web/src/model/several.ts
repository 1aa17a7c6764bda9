/** One or many of a thing, with their count, worked out or as typed: "1 entry", "3 entries". */
export const several = (n: number | string, one: string, many = `${one}s`) =>
  `${n} ${String(n) === "1" ? one : many}`;
