/** A calculator as the catalogue lists it. */
export type Listed = { name: string; purpose: string; group: string; asks?: string[] };

/** Words that say nothing of what is wanted. */
const idle = new Set(
  "a an and at for how i in is it its of on or that the to what which with much many".split(" "),
);

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\d]+/u)
    .filter((w) => w.length > 1 && !/^\d+$/.test(w) && !idle.has(w));

const fits = (of: readonly string[], wanted: string): number => {
  if (of.includes(wanted)) return 3;
  return of.some((w) => w.startsWith(wanted) || (w.length > 3 && wanted.startsWith(w))) ? 2 : 0;
};

/**
 * Those that half of what was typed fits, the best first; all of them, in the order of the work, while
 * nothing is.
 */
export function wanted<T extends Listed>(all: readonly T[], typed: string): T[] {
  const asked = words(typed);
  if (asked.length === 0) return [...all];
  return all
    .map((c) => {
      const of = words([c.name, c.purpose, ...(c.asks ?? [])].join(" "));
      const each = asked.map((w) => fits(of, w));
      return { c, score: each.reduce((a, b) => a + b, 0), hits: each.filter((x) => x > 0).length };
    })
    .filter(({ hits }) => 2 * hits >= asked.length)
    .toSorted((a, b) => b.score - a.score)
    .map(({ c }) => c);
}

/** The same, group by group, in the order in which their first one comes. */
export function grouped<T extends Listed>(list: readonly T[]): { title: string; of: T[] }[] {
  const groups = new Map<string, T[]>();
  for (const c of list) groups.set(c.group, [...(groups.get(c.group) ?? []), c]);
  return [...groups].map(([title, of]) => ({ title, of }));
}
