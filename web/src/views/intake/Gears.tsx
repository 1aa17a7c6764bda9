import { placed } from "../../model/number";
import { useCountGears } from "../../data/fleet";
import type { Assembly } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { useRoutes } from "../../data/sheets";
import { Fault } from "../../parts/Fault";

type Props = { chosen: number; marks?: boolean; onPick: (gears: number) => void };

/** How many forward gears there are, as they are on the knob: what tries them one by one asks for no more. */
export function Gears({ chosen, marks = false, onPick }: Props) {
  return (
    <div>
      <p className="text-small text-quiet">Forward gears, as counted</p>
      <Answers
        label="Forward gears"
        answers={["3", "4", "5", "6"].map((n) => ({ id: n, text: n }))}
        chosen={chosen > 0 ? String(chosen) : undefined}
        keyed={false}
        marks={marks}
        onPick={(n) => onPick(placed(n))}
      />
    </div>
  );
}

/** A unit that is known: its gears are counted here once, and counted again where that was a slip. */
export function GearsOf({ unit, onSaid }: { unit: Assembly; onSaid: (unit: Assembly) => void }) {
  const counts = useRoutes().data?.find((r) => r.id === unit.route)?.gears === true;
  const say = useCountGears(unit.id);
  if (!counts) return null;
  return (
    <div className="px-4 py-2.5 border-t border-hair">
      <Gears
        chosen={unit.gears ?? 0}
        onPick={(n) => !say.isPending && say.mutate(n, { onSuccess: (page) => onSaid(page.unit) })}
      />
      <Fault error={say.error} />
    </div>
  );
}
