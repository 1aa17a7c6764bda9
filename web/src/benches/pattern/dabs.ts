import { drawn } from "../../model/number";
import { valueAt } from "../../model/at";
import type { Face, AtStep } from "../bench";

/** The two flanks of a tooth. */
export const flanks = ["drive", "coast"] as const;
export type Flank = (typeof flanks)[number];

/** Where a flank bears: u from toe to heel, v from root to face, each -1 to 1; what is not said is missing. */
export type Dab = { u?: number; v?: number; length?: number };

type Props = Face<"pattern">;
type Choice = { id: string; value: number };

/** What is dabbed on a flank. */
export function dabAt({ input, step }: Props, flank: Flank): Dab {
  const said = (part: keyof Dab) => {
    const asked = askedAt(step, flank, part);
    if (asked) return choicesOf(asked).find((c) => c.id === asked.entry?.body.outcome)?.value;
    const there = valueAt(input, `${flank}.${part}`);
    return typeof there === "number" || typeof there === "string" ? drawn(there) : undefined;
  };
  const [u, v, length] = [said("u"), said("v"), said("length")];
  return {
    ...(u !== undefined && { u }),
    ...(v !== undefined && { v }),
    ...(length !== undefined && { length }),
  };
}

const askedAt = (step: AtStep | undefined, flank: Flank, part: keyof Dab) =>
  step?.asked.find(({ ask }) => ask.feeds === `${flank}.${part}`);

type Asked = NonNullable<ReturnType<typeof askedAt>>;

const choicesOf = ({ ask }: Asked): Choice[] =>
  (ask.choices ?? []).flatMap((c) => (typeof c.value === "number" ? [{ id: c.id, value: c.value }] : []));

/** The choice that is nearest to a place. */
const nearest = (asked: Asked, to: number) =>
  choicesOf(asked).reduce<Choice | undefined>(
    (best, c) => (best && Math.abs(best.value - to) <= Math.abs(c.value - to) ? best : c),
    undefined,
  );

/** Says where a flank bears: at a loose bench as it is, at a step as the answers that are nearest. */
export function toDab(p: Props, flank: Flank): ((dab: Dab) => void) | undefined {
  const { step, input, onInput } = p;
  if (!step)
    return onInput && ((dab) => onInput({ ...input, [flank]: { u: 0, v: 0, ...input[flank], ...dab } }));
  const sayRest = (parts: [keyof Dab, number][]) => {
    const [first, ...rest] = parts;
    if (!first) return;
    const asked = askedAt(step, flank, first[0]);
    const choice = asked && nearest(asked, first[1]);
    if (!asked || !choice || choice.id === asked.entry?.body.outcome) return sayRest(rest);
    const { ask, entry } = asked;
    step.say(
      {
        act: "reading",
        item: entry?.item ?? ask.id,
        outcome: choice.id,
        ...(entry && { supersedes: entry.id }),
      },
      () => sayRest(rest),
    );
  };
  return ({ u, v, length }) =>
    sayRest([
      ...(u === undefined ? [] : [["u", u] as [keyof Dab, number]]),
      ...(v === undefined ? [] : [["v", v] as [keyof Dab, number]]),
      ...(length === undefined ? [] : [["length", length] as [keyof Dab, number]]),
    ]);
}
