import { useId, useState } from "react";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import type { FormProps } from "./FigureForm";

const finishes = [
  { id: "as_received", text: "As it comes" },
  { id: "oiled", text: "Oiled" },
  { id: "dry", text: "Dry, degreased" },
  { id: "anti_seize", text: "Anti-seize" },
] as const;

/**
 * Nobody has the maker's torque: size, class and finish of the bolts give one, called so; or there are
 * none.
 */
export function BySize(p: FormProps) {
  const { figure } = p;
  const id = useId();
  const sized = useSized(p);
  return (
    <form
      aria-labelledby={id}
      className="px-4 pb-4 flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        sized.take();
      }}
    >
      <h4 id={id} className="font-semibold border-t border-hair pt-3">
        No manual: by size and class
      </h4>
      <p className="text-quiet text-note">
        Read them off the bolt. The record calls it so
        {figure.grave && "; the lead answers for it before signing"}.
      </p>
      <Bolts {...sized} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" name="by-size" value={figure.path} disabled={!sized.whole}>
          Use size and class
        </Button>
        <Button name="not-here" value={figure.path} onClick={sized.none}>
          Not on this vehicle
        </Button>
      </div>
    </form>
  );
}

type Finish = (typeof finishes)[number]["id"];

/** The bolts as they are read off, and how they are said. */
function useSized({ figure, supersedes, onDone, say }: FormProps) {
  const [bolts, setBolts] = useState("");
  const [size, setSize] = useState("");
  const [grade, setGrade] = useState("");
  const [finish, setFinish] = useState<Finish>("as_received");
  const about = { act: "figure", item: figure.path, ...(supersedes && { supersedes }) } as const;
  const whole = [bolts, size, grade].every((t) => t.trim() !== "");
  const sized = { bolts, diameter: `${size} mm`, class: grade.trim(), finish };
  const take = () => whole && say({ ...about, origin: "by-size", sized }, onDone);
  const none = () => say({ ...about, origin: "not-here" }, onDone);
  return { bolts, setBolts, size, setSize, grade, setGrade, finish, setFinish, whole, take, none };
}

const Bolts = (s: ReturnType<typeof useSized>) => (
  <>
    <div className="flex flex-wrap gap-3 items-end">
      <Field
        label="How many bolts"
        name="bolts"
        value={s.bolts}
        onValue={s.setBolts}
        inputMode="numeric"
        numeric
        className="basis-[120px]"
      />
      <Field
        label="Thread, mm"
        value={s.size}
        onValue={s.setSize}
        inputMode="decimal"
        numeric
        className="basis-[120px]"
      />
      <Field
        label="Class on the head, like 8.8"
        value={s.grade}
        onValue={s.setGrade}
        inputMode="decimal"
        className="basis-[180px]"
      />
    </div>
    <Answers
      label="Finish of the thread"
      answers={finishes}
      chosen={s.finish}
      keyed={false}
      marks
      onPick={(id) => s.setFinish(finishes.find((f) => f.id === id)?.id ?? "as_received")}
    />
  </>
);
