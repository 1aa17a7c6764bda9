type RowProps = {
  name: string;
  id: string;
  chosen: boolean;
  onPick: () => void;
  title: string;
  text?: string | undefined;
  warn?: string | undefined;
};

/** A row to choose, as a radio with its reasons. */
export function Row({ name, id, chosen, onPick, title, text, warn }: RowProps) {
  const edge = chosen ? "bg-tint border-l-blue" : "border-l-transparent";
  return (
    <label
      className={`flex gap-3 items-start min-h-11 px-4 py-2.5 border-b border-hair last:border-b-0 cursor-pointer border-l-5 ${edge}`}
    >
      <input
        type="radio"
        name={name}
        value={id}
        checked={chosen}
        onChange={onPick}
        className="mt-1.5 size-4 accent-blue"
      />
      <span>
        <span className="font-semibold text-line">{title}</span>
        {text && <span className="block text-quiet text-note">{text}</span>}
        {warn && (
          <span className="block text-out text-note">
            <b>Not in here.</b> {warn}
          </span>
        )}
      </span>
    </label>
  );
}
