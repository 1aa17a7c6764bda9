import type { EntryView } from "../../model/types";
import { VerdictShape } from "../../parts/Verdict";
import { type Cell, itemOf, type Known, live, placeInWords } from "./group";

type Props = {
  torque: Known;
  entries: EntryView[];
  current: Cell | undefined;
  onPick: (c: Cell) => void;
};

/** One row per pass, the bolts in the order they are tightened. */
export function Strip({ torque, entries, current, onPick }: Props) {
  const passes = torque.plan.passes.filter((x) => !x.check);
  const { order } = torque.plan;
  return (
    <div
      className="mt-4 border border-ink overflow-x-auto"
      tabIndex={0}
      role="group"
      aria-label="Wrench readings"
    >
      <table className="w-full border-collapse text-center">
        <caption className="sr-only">Wrench reading per bolt and pass</caption>
        <thead>
          <tr className="text-quiet text-small">
            <th scope="col" className="font-normal text-left px-3 py-1">
              bolt
            </th>
            {order.map((b) => (
              <th key={b} scope="col" className="font-normal border-l border-hair">
                {b}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {passes.map((x, i) => (
            <tr key={x.name} className="border-t border-hair">
              <th scope="row" className="font-normal text-left px-3 text-note whitespace-nowrap">
                pass {i + 1}
              </th>
              {order.map((bolt) => {
                const cell = torque.cells.find((y) => y.pass === i + 1 && y.bolt === bolt);
                return (
                  <Reading
                    key={bolt}
                    cell={cell}
                    entry={cell && live(entries, itemOf(cell))}
                    now={current?.bolt === bolt && current.pass === i + 1}
                    onPick={onPick}
                  />
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type ReadingProps = Pick<Props, "onPick"> & {
  cell: Cell | undefined;
  entry: EntryView | undefined;
  now: boolean;
};

/** What the wrench showed for a bolt; a touch corrects it. */
const Reading = ({ cell: c, entry: e, now, onPick }: ReadingProps) => (
  <td
    className={`border-l border-hair h-[46px] min-w-[58px] ${now ? "outline-[3px] -outline-offset-[3px] outline-blue bg-field" : ""}`}
  >
    {e && c && (
      <button
        type="button"
        className="w-full min-h-11 font-mono text-body text-center"
        onClick={() => onPick(c)}
      >
        <span className="sr-only">{placeInWords(c)}: </span>
        {e.body.value?.value}{" "}
        <span className="flex gap-1 items-center justify-center text-tiny text-quiet">
          <VerdictShape verdict={e.verdict ?? "none"} size={8} />
          {e.body.value?.unit}
        </span>
        <span className="sr-only">, {e.verdict ?? "waits"}; correct it</span>
      </button>
    )}
  </td>
);
