import { useId, useRef } from "react";
import type { FigureView, Origin } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { FigureEditor, useFigure } from "../parts/FigureEditor";
import { useKept } from "../parts/kept";
import { BySize } from "./BySize";
import { useKey } from "../parts/keys";
import type { StepProps } from "./props";

const origins: { id: Origin; text: string; wants: string }[] = [
  { id: "makers-book", text: "Workshop manual", wants: "page" },
  { id: "plate", text: "Plate or stamping", wants: "where it is" },
  { id: "measured", text: "Measured on a sound unit", wants: "which unit, which gauge" },
  { id: "measured-here", text: "Measured on this one", wants: "where, with what" },
  { id: "judgement", text: "This shop's judgement", wants: "why" },
];

export type FormProps = StepProps & {
  figure: FigureView;
  left?: number;
  supersedes?: string;
  onDone?: () => void;
};

/** A figure typed, or a torque by the bolts as they are. */
export default function FigureForm(p: FormProps) {
  return (
    <>
      <Typed {...p} />
      {p.figure.shape === "torque" && <BySize {...p} />}
    </>
  );
}

function Typed(p: FormProps) {
  const { figure, left, onDone, fault, refused } = p;
  const said = useSaid(p);
  const { editor, from, note } = said;
  const grave = figure.grave === true;
  useKey("missing", `${figure.called}: not known`, () =>
    grave ? focusIn(form.current?.parentElement ?? null, "[name=bolts]") : said.put(false),
  );
  const wrong = refused?.act === "figure" && refused.item === figure.path ? fault : null;
  const id = useId();
  const form = useRef<HTMLFormElement>(null);
  /** Enter goes to what is still open, and at last takes it. */
  const take = () => {
    if (editor.value === undefined) focusIn(form.current, "input:not([name=note]), [role=radio]");
    else if (!from) focusIn(form.current, "[data-asks=origin] [role=radio][tabindex='0']");
    else if (from.id === "makers-book" && note.trim() === "") focusIn(form.current, "[name=note]");
    else said.put(true);
  };
  return (
    <form
      ref={form}
      className="p-4 flex flex-col gap-3"
      aria-labelledby={id}
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <div>
        <h3 id={id} className="text-head">
          Not on the spec sheet: {figure.called}
          {left !== undefined && left > 1 && (
            <span className="text-quiet font-normal text-body"> (1 of {left})</span>
          )}
        </h3>
        {figure.help && <p className="text-quiet">{figure.help}</p>}
      </div>
      <FigureEditor figure={figure} editor={editor} wrong={wrong !== null} />
      <WhereFrom said={said} onPicked={() => focusIn(form.current, "[name=note]")} />
      <Ways
        figure={figure}
        known={editor.value !== undefined}
        onUnknown={() => said.put(false)}
        onDone={onDone}
      />
      <Fault error={wrong} />
      <p className="text-quiet text-small">The record shows this figure with its source.</p>
    </form>
  );
}

/** The figure being typed and where it comes from; put says it, or that nobody knows it. */
function useSaid({ figure, supersedes, onDone, say }: FormProps) {
  const place = `figure.${figure.path}`;
  const editor = useFigure(figure, place, supersedes ? figure.said : undefined); // as it stands
  const [origin, setOrigin] = useKept(`${place}.origin`);
  const [note, setNote] = useKept(`${place}.note`);
  const from = origins.find((o) => o.id === origin);
  const put = (known: boolean) =>
    say(
      {
        act: "figure",
        item: figure.path,
        origin: (known && from?.id) || "not-known",
        ...(known && { figure: editor.value }),
        ...(known && note.trim() && { note: note.trim() }),
        ...(supersedes && { supersedes }),
      },
      () => {
        editor.clear();
        setNote("");
        setOrigin("");
        onDone?.();
      },
    );
  return { editor, origin, setOrigin, note, setNote, from, put };
}

const WhereFrom = ({ said, onPicked }: { said: ReturnType<typeof useSaid>; onPicked: () => void }) => (
  <div className="flex flex-wrap gap-3 items-end" data-asks="origin">
    <Answers
      label="Source"
      answers={origins}
      chosen={said.origin}
      keyed={said.editor.value !== undefined}
      marks
      onPick={(to) => {
        said.setOrigin(to);
        onPicked();
      }}
    />
    <Field
      name="note"
      label={`Source details: ${said.from?.wants ?? "choose first"}`}
      value={said.note}
      onValue={said.setNote}
      className="grow basis-[220px]"
    />
  </div>
);

type WaysProps = {
  figure: FigureView;
  known: boolean;
  onUnknown: () => void;
  onDone: (() => void) | undefined;
};

const Ways = ({ figure, known, onUnknown, onDone }: WaysProps) => (
  <div className="flex flex-wrap gap-2">
    <Button
      look="go"
      type="submit"
      hint="Enter"
      name="figure"
      value={figure.path}
      disabled={!known}
      why="Type the figure first, then say where it comes from."
    >
      Use this figure
    </Button>
    {!figure.grave && (
      <Button hint="V" name="figure-unknown" value={figure.path} onClick={onUnknown}>
        Not known, no verdict
      </Button>
    )}
    {onDone && <Button onClick={onDone}>Cancel</Button>}
  </div>
);

const focusIn = (within: HTMLElement | null, what: string) =>
  within?.querySelector<HTMLElement>(what)?.focus();
