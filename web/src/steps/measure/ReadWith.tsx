import type { Instrument } from "../../model/types";

/** Which of the shop's instruments of this kind is in the hand. */
export function ReadWith({
  instruments,
  value,
  onPick,
}: {
  instruments: Instrument[];
  value: string;
  onPick: (id: string) => void;
}) {
  if (instruments.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      read with
      <select
        value={value}
        onChange={(e) => onPick(e.target.value)}
        className="min-h-11 border border-hair bg-sheet text-ink px-2"
      >
        {instruments.map((i) => (
          <option key={i.id} value={i.id}>
            {i.name}
          </option>
        ))}
      </select>
    </label>
  );
}
