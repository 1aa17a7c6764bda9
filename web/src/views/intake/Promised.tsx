import { useState } from "react";
import { dayFromNow, weekday } from "../../model/moment";
import { usePromises } from "../../data/rebuilds";
import { several } from "../../model/several";

const days = 14;

type Props = { chosen: string; route: string; onPick: (day: string) => void };

const inDays = (n: number) => several(n, "day");

/** What is promised in the two weeks to come, a box each; this one dashed. A touch promises a day. */
export function PromisesDrawn({ chosen, route, onPick }: Props) {
  const [from] = useState(() => dayFromNow(0));
  const promises = usePromises(from, route).data;
  const took = promises?.took;
  const counts = new Map((promises?.days ?? []).map((d) => [d.day, d.count]));
  const list = Array.from({ length: days }, (_, i) => dayFromNow(i));
  return (
    <div>
      <p className="text-quiet text-note mb-1">Promises in the next two weeks</p>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(44px,1fr))]">
        {list.map((d, i) => {
          const n = counts.get(d) ?? 0;
          const weekend = ["Sat", "Sun"].includes(weekday(d));
          return (
            <button
              key={d}
              type="button"
              disabled={i === 0}
              aria-pressed={d === chosen}
              aria-label={`${weekday(d).slice(0, 2)} ${d.slice(8)}: promise ${d}, ${n} promised already`}
              onClick={() => onPick(d)}
              className={`min-h-[104px] border-l border-r border-hair border-b border-b-ink flex flex-col justify-end px-px pb-1 gap-[3px] ${weekend ? "bg-hair/25" : ""}`}
            >
              <span className="mb-auto text-tiny text-quiet leading-tight pt-1">
                {weekday(d).slice(0, 2)}
                <br />
                {d.slice(8)}
              </span>
              {d === chosen && <span className="h-2.5 border-2 border-dashed border-blue bg-tint" />}
              {Array.from({ length: Math.min(n, 6) }, (_, k) => (
                <span key={k} className="h-2.5 border border-ink bg-sheet" />
              ))}
            </button>
          );
        })}
      </div>
      <p className="text-quiet text-small mt-1">
        Touch a day to promise it. Each box is a promise; yours is dashed.
      </p>
      {took && (
        <p className="mt-1">
          Half of these jobs take {inDays(took.half)}, 8 in 10 take {took.eight_in_ten}
          <span className="text-quiet"> (last {took.jobs} jobs here).</span>
        </p>
      )}
    </div>
  );
}
