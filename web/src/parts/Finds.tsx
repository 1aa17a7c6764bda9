import { Link } from "@tanstack/react-router";
import type { Find } from "../model/types";
import { Button } from "./Button";

type Props = {
  list: readonly Find[];
  /** What became of one that is open, where that can be said. */
  onSettle?: (f: Find, settled: "done" | "refused") => void;
};

/** What was found along the way on a vehicle: what is open stands out, and says where it was seen. */
export function Finds({ list, onSettle }: Props) {
  return (
    <ul>
      {list.map((f) => (
        <li
          key={f.says}
          className={`border-b border-hair last:border-b-0 py-1.5 ${f.open ? "border-l-5 border-l-undecided pl-3" : "text-quiet"}`}
        >
          <b className="font-semibold">{f.says}</b>: {f.words}, in{" "}
          <Link to="/records/$id" params={{ id: f.rebuild }}>
            {f.number}
          </Link>
          {onSettle && (
            <span className="flex gap-2 my-1">
              <Button name="found" value="done" onClick={() => onSettle(f, "done")}>
                Done now
              </Button>
              <Button name="found" value="refused" onClick={() => onSettle(f, "refused")}>
                Customer declined
              </Button>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
