import { nextOf } from "../model/quantity";
import { useKept } from "./kept";
import { useKey } from "./keys";

/**
 * The unit that is typed in at a step, the shop's own until another is picked;
 * and the way to the next one, none where there is only one.
 */
export function useUnitOf(
  step: string,
  units: readonly string[] | undefined,
  keyed: boolean,
): [string, (() => void) | undefined] {
  const choice = units ?? [];
  const [unit, setUnit] = useKept(`unit.${step}.${choice.join()}`, choice[0] ?? "");
  const turn = () => setUnit(nextOf(choice, unit));
  const several = choice.length > 1;
  useKey("unit", "change unit", turn, keyed && several);
  return [unit, several ? turn : undefined];
}

/** The unit beside what is typed; empty where the text says it. */
export function UnitShown({ unit, turn }: { unit: string; turn: (() => void) | undefined }) {
  if (!turn || unit === "") return <span className="pr-2.5 font-mono text-small text-quiet">{unit}</span>;
  return (
    <button
      type="button"
      title="change unit"
      aria-label={`in ${unit}: change unit`}
      className="min-h-11 min-w-11 px-2.5 font-mono text-small text-quiet underline decoration-dotted"
      onClick={turn}
    >
      {unit}
    </button>
  );
}
