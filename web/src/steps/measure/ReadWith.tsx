import { Link } from "@tanstack/react-router";
import type { Instrument } from "../../model/types";

type Props = { kind: string; instruments: Instrument[]; value: string; onPick: (id: string) => void };

/** Which of the shop's instruments of this kind is in the hand; one that is overdue says so here. */
export function ReadWith({ kind, instruments, value, onPick }: Props) {
  if (instruments.length === 0 && !kind) return null;
  if (instruments.length === 0)
    return (
      <span>
        No {kind} entered: readings have no gauge error. <Link to="/gauges">Gauges</Link>
      </span>
    );
  const at = instruments.find((i) => i.id === value);
  return (
    <>
      <label className="flex items-center gap-2 min-w-0 max-w-full">
        gauge
        <select
          value={value}
          onChange={(e) => onPick(e.target.value)}
          className="min-h-11 min-w-0 border border-hair bg-sheet text-ink px-2"
        >
          {instruments.map((i) => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
        </select>
      </label>
      {at?.overdue && (
        <span role="status" className="text-undecided font-semibold">
          Calibration overdue since {at.due}.
        </span>
      )}
    </>
  );
}
