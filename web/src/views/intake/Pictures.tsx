import { useEffect, useMemo, useRef } from "react";
import { Button } from "../../parts/Button";

/** Pictures taken before there is a rebuild to keep them; they go with it. */
export function Pictures({ list, onList }: { list: readonly File[]; onList: (list: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const shown = useMemo(() => list.map((file) => ({ file, at: URL.createObjectURL(file) })), [list]);
  useEffect(() => () => shown.forEach((s) => URL.revokeObjectURL(s.at)), [shown]);
  return (
    <div className="flex flex-wrap gap-2.5 items-start">
      {shown.map(({ file, at }, i) => (
        <figure key={at} className="border border-ink">
          <img src={at} alt={`As it arrived, no. ${i + 1}`} className="h-24 w-32 object-cover" />
          <button
            type="button"
            className="w-full min-h-11 border-t border-hair text-quiet"
            onClick={() => onList(list.filter((f) => f !== file))}
          >
            Remove<span className="sr-only"> picture {i + 1}</span>
          </button>
        </figure>
      ))}
      <input
        ref={input}
        type="file"
        accept="image/*"
        multiple
        aria-label="Pictures at intake"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          onList([...list, ...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>Add a picture</Button>
    </div>
  );
}
