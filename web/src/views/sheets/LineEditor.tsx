import { placed } from "../../model/number";
import { useState } from "react";
import { type FigureKnown, startOf } from "../../model/asked";
import { useSayFigure } from "../../data/sheets";
import { type Part, partsKnown, partsOf } from "../../model/stack";
import type { SheetLine, SheetPage } from "../../model/types";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { FigureEditor, useFigure } from "../../parts/FigureEditor";
import { StackEdited } from "./StackEdited";

type Props = { page: SheetPage; figure: FigureKnown; now?: SheetLine; onDone: () => void };

/** One line of the sheet, said otherwise with the reason; every change is a version. */
export function LineEditor({ page, figure, now, onDone }: Props) {
  const editor = useFigure(figure, `sheet.${page.sheet.id}.${page.sheet.version}.${figure.path}`, now?.value);
  const [why, setWhy] = useState("");
  const write = useSayFigure(page, figure.path);
  const say = (value: unknown) =>
    write.mutate(
      { figure: value, why },
      {
        onSuccess: () => {
          editor.clear();
          onDone();
        },
      },
    );
  const stack = figure.path.startsWith("stacks.");
  const [parts, setParts] = useState(() => partsOf(now?.value ?? startOf(figure, 0)));
  const list = parts.length > 0 ? parts : undefined;
  const value = stack ? list : editor.value;
  const ready = !write.isPending && value !== undefined;
  return (
    <form
      aria-label={figure.title}
      className="border-y border-ink border-l-6 border-l-blue p-4 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) say(value);
      }}
    >
      <div>
        <h3 className="text-line font-semibold">{figure.title}</h3>
        {figure.help && <p className="text-quiet">{figure.help}</p>}
      </div>
      {stack ? (
        <>
          {!now && <Starts figure={figure} onParts={setParts} />}
          <StackEdited parts={parts} choices={figure.choices ?? {}} onParts={setParts} />
        </>
      ) : (
        <FigureEditor figure={figure} editor={editor} wrong={write.isError} parts={partsKnown(page)} />
      )}
      <Field label="Source: manual and page, plate, or unit measured" value={why} onValue={setWhy} />
      <div className="flex flex-wrap gap-2">
        <Button look="go" type="submit" hint="Enter" disabled={!ready}>
          Save as version {page.sheet.version + 1}
        </Button>
        {now && (
          <Button disabled={write.isPending} onClick={() => say(null)}>
            Delete this figure
          </Button>
        )}
        <Button onClick={onDone}>Cancel</Button>
      </div>
      <Fault error={write.error} />
    </form>
  );
}

type StartsProps = { figure: FigureKnown; onParts: (parts: Part[]) => void };

/** The parts of a unit like it, to begin with. */
function Starts({ figure, onParts }: StartsProps) {
  const starts = figure.starts ?? [];
  if (starts.length < 2) return null;
  return (
    <label className="block">
      <span className="block text-small text-quiet">Start from the parts of</span>
      <select
        onChange={(e) => onParts(partsOf(startOf(figure, placed(e.target.value))))}
        className="min-h-11 px-3 border border-ink bg-field max-w-full"
      >
        {starts.map((x, i) => (
          <option key={x.title} value={i}>
            {x.title}
          </option>
        ))}
      </select>
    </label>
  );
}
