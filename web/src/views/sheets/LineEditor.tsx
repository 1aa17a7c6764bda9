import { placed } from "../../model/number";
import { useState } from "react";
import { type FigureKnown, startOf } from "../../model/asked";
import { useSayFigure } from "../../data/sheets";
import { partsKnown, partsOf } from "../../model/stack";
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
  const busy = write.isPending;
  const stack = figure.path.startsWith("stacks.");
  const [parts, setParts] = useState(() => partsOf(now?.value ?? startOf(figure, 0)));
  const value = stack ? (parts.length > 0 ? parts : undefined) : editor.value;
  return (
    <form
      aria-label={figure.title}
      className="border-y border-ink border-l-6 border-l-blue p-4 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!busy && value !== undefined) say(value);
      }}
    >
      <div>
        <h3 className="text-line font-semibold">{figure.title}</h3>
        {figure.help && <p className="text-quiet">{figure.help}</p>}
      </div>
      {stack ? (
        <>
          {!now && (figure.starts?.length ?? 0) > 1 && (
            <label className="block">
              <span className="block text-small text-quiet">To begin with, the parts of</span>
              <select
                onChange={(e) => setParts(partsOf(startOf(figure, placed(e.target.value))))}
                className="min-h-11 px-3 border border-ink bg-field max-w-full"
              >
                {(figure.starts ?? []).map((x, i) => (
                  <option key={x.title} value={i}>
                    {x.title}
                  </option>
                ))}
              </select>
            </label>
          )}
          <StackEdited parts={parts} onParts={setParts} />
        </>
      ) : (
        <FigureEditor figure={figure} editor={editor} wrong={write.isError} parts={partsKnown(page)} />
      )}
      <Field label="Why: book and page, plate, measured on" value={why} onValue={setWhy} />
      <div className="flex flex-wrap gap-2">
        <Button look="go" type="submit" hint="Enter" disabled={busy || value === undefined}>
          Keep as version {page.sheet.version + 1}
        </Button>
        {now && (
          <Button disabled={busy} onClick={() => say(null)}>
            Say it no longer
          </Button>
        )}
        <Button onClick={onDone}>Leave it</Button>
      </div>
      <Fault error={write.error} />
    </form>
  );
}
