import type { components } from "./schema.gen";

type Run = components["schemas"]["PracticeRun"];

/** Runs by person and kind, each from the first to the latest; whoever practised last comes first. */
export function curves(latestFirst: readonly Run[]): { name: string; kind: Run["kind"]; runs: Run[] }[] {
  const found = new Map<string, { name: string; kind: Run["kind"]; runs: Run[] }>();
  for (const run of latestFirst) {
    const key = `${run.login} ${run.kind}`;
    const curve = found.get(key) ?? { name: run.name, kind: run.kind, runs: [] };
    curve.runs.unshift(run);
    found.set(key, curve);
  }
  return [...found.values()];
}

/** One more of its kind, by chance. */
export const anotherSeed = () => Math.floor(Math.random() * 1e6);
