import { isDone } from "../../parts/drawn/shafts";
import type { StackPart, Units } from "../../model/types";
import { useUnits } from "../../data/calc";
import type { Work } from "./acts";
import { LifeLine } from "./LifeLine";

type Props = {
  parts: StackPart[];
  /** The number of each in the stack. */
  numbers: Map<string, number>;
  work: Work;
  current: string | undefined;
  onPick: ((id: string) => void) | undefined;
  onCorrect: (id: string) => void;
};

const columns = ["part", "faces", "tray", "state"];
const correctLook = "ml-3 underline underline-offset-3 text-quiet min-h-11 min-w-11";

/** The parts as a list, for who reads rather than looks. */
export function PartList({ parts, numbers, work, current, onPick, onCorrect }: Props) {
  const units = useUnits().data;
  return (
    <div className="overflow-x-auto mt-3" tabIndex={0} role="group" aria-label="List of parts">
      <table className="w-full text-note border-collapse">
        <caption className="sr-only">Parts</caption>
        <thead>
          <tr className="text-quiet text-left">
            <th className="font-normal w-9">no.</th>
            {columns.map((x) => (
              <th key={x} className="font-normal">
                {x}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {parts.map((x) => (
            <Row
              key={x.id}
              part={x}
              n={numbers.get(x.id)}
              done={isDone(work, x)}
              now={x.id === current}
              onPick={onPick}
              onCorrect={onCorrect}
              units={units}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowProps = Pick<Props, "onPick" | "onCorrect"> & {
  part: StackPart;
  n: number | undefined;
  done: boolean;
  now: boolean;
  units: Units;
};

const Row = ({ part: x, n, done, now, onPick, onCorrect, units }: RowProps) => (
  <tr className={`border-t border-hair ${now ? "text-blue font-semibold" : ""}`}>
    <td className="font-mono py-1">{n}</td>
    <td>
      {onPick && !done ? (
        <button type="button" className="underline underline-offset-3 min-h-11" onClick={() => onPick(x.id)}>
          {x.name}
        </button>
      ) : (
        x.name
      )}
      {(x.pieces ?? 1) > 1 && <span className="font-mono text-quiet"> × {x.pieces}</span>}
      {x.extra && <span className="text-small text-quiet"> found there</span>}
    </td>
    <td className="text-quiet">
      {x.seen || x.faces}
      {x.mark && `, marked ${x.mark}`}
    </td>
    <td className="pr-3 whitespace-nowrap">
      {x.tray}
      {x.photo && (
        <a href={`/api/v1/photos/${x.photo}`} target="_blank" rel="noreferrer" className="ml-2">
          picture
        </a>
      )}
    </td>
    <td>
      {x.says}
      {x.wear && <LifeLine worn={x.wear} units={units} />}
      {done && (
        <button
          type="button"
          className={correctLook}
          aria-label={`correct ${x.name}`}
          onClick={() => onCorrect(x.id)}
        >
          correct
        </button>
      )}
    </td>
  </tr>
);
