import { useUnits } from "../../data/calc";
import { say as sayQ } from "../../model/quantity";
import type { EntryView } from "../../model/types";
import { MarginSlot } from "../../parts/MarginSlot";
import { Verdict } from "../../parts/Verdict";
import { itemOf, type Known, live, type Shown } from "./group";
import { several } from "../../model/several";

type Props = { torque: Known; entries: EntryView[]; set: Shown };

/** How many readings of the group are in, the last of them, and what is off. */
export function TorqueMeaning({ torque, entries, set }: Props) {
  const units = useUnits().data;
  const done = torque.cells.filter((c) => live(entries, itemOf(c))).length;
  const last = entries.findLast((e) => e.act === "torqued" && !e.superseded_by);
  const value = last && last.body.value;
  return (
    <MarginSlot>
      <div aria-live="polite">
        <p className="text-quiet text-small">
          {torque.group.name}: {several(torque.group.bolts, "bolt")}, {sayQ(set(torque.group.torque), units)}{" "}
          ± {Math.round(100 * torque.group.tolerance)} %
        </p>
        <p className="font-mono font-medium text-figure leading-none">
          {done}
          <span className="text-head"> of {several(torque.cells.length, "reading")}</span>
        </p>
        {last && value && (
          <p className="mt-2">
            <Verdict
              verdict={last.verdict ?? "none"}
              says={`bolt ${last.body.bolt}: ${sayQ(value, units)}`}
              small
            />
          </p>
        )}
      </div>
      {torque.off?.map((words) => (
        <p key={words} className="border border-out border-l-6 p-2.5">
          {words}
        </p>
      ))}
    </MarginSlot>
  );
}
