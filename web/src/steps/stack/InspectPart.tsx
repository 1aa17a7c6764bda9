import { useId, useRef } from "react";
import { said } from "../../model/json";
import type { Answer } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PartProps } from "./acts";
import { MeasureIt, useWear } from "./MeasureIt";
import { Once } from "./Once";

/** A part is looked at: what was seen, what was measured of it against new and limit, and the verdict. */
export function InspectPart(p: PartProps) {
  const { view, part, correcting } = p;
  const look = useLook(p);
  const form = useRef<HTMLFormElement>(null);
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting && "Correct: "}
        {part.name}
        <Once part={part} />
        {part.not_found && (
          <span className="ml-3 text-small font-normal text-out">
            <span className="sr-only">, </span>missing
          </span>
        )}
      </h3>
      <form
        ref={form}
        className="flex flex-wrap gap-2 items-end mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          form.current?.querySelector<HTMLElement>("[data-hand]:not([aria-disabled])")?.focus();
        }}
      >
        <Field
          label="What do you see?"
          value={look.reason}
          onValue={look.setReason}
          hotkey="tray"
          className="grow basis-[220px]"
        />
        {part.answers.map((x, i) => (
          <Judge
            key={x.id}
            hint={`${i + 1}`}
            answer={x}
            why={look.wants(x)}
            onPick={() => look.judge(x.id)}
          />
        ))}
      </form>
      <div className="flex flex-wrap gap-x-5 gap-y-2 items-end mt-2">
        <MeasureIt wear={look.wear} />
        <Answers
          label="How will you rework it?"
          answers={view.works.map((id) => ({ id, text: id }))}
          chosen={look.work}
          keyed={false}
          marks
          onPick={(id) => look.setWork(id === look.work ? "" : id)}
        />
      </div>
    </div>
  );
}

/** What is known of the part before anybody looks. */
function seenBefore({ part, correcting }: PartProps) {
  if (correcting) return part.reason ?? "";
  return part.not_found ? "missing when taken apart" : (part.damage ?? "");
}

/** What was seen and measured of the part, and its verdict. */
function useLook(p: PartProps) {
  const { view, part, say, correcting } = p;
  const usual = seenBefore(p);
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`, usual);
  const [work, setWork] = useKept(`${view.step.id}.work/${part.id}`, correcting ? (part.work ?? "") : "");
  const wear = useWear(p);
  const judge = (outcome: string) =>
    say(
      {
        act: "verdict",
        item: part.id,
        outcome,
        ...said({ reason: reason.trim(), work: outcome === "rework" && work, wear: wear.worn }),
        ...said({ instrument: wear.worn && wear.gauge }),
      },
      () => {
        setReason(usual);
        setWork("");
        wear.clear();
      },
    );
  /** What has to be said before this verdict, if anything. */
  const wants = (x: Answer): string => {
    if (x.not) return `Not this one: ${x.not}.`;
    if (reason.trim() !== "") return "";
    const told = x.id === "replace" && wear.worn !== undefined; // what was measured says why
    if (x.id === "reuse" ? wear.past : x.reason && !told) return "Say first what was seen.";
    return "";
  };
  return { reason, setReason, work, setWork, wear, judge, wants };
}

type JudgeProps = {
  hint: `${number}`;
  answer: Answer;
  why: string;
  onPick: () => void;
};

/** A verdict has the same figure on every part; where something is wanted first, its key says what. */
function Judge({ hint, answer, why, onPick }: JudgeProps) {
  const id = useId();
  useKey(hint, answer.text.toLowerCase(), () => document.getElementById(id)?.click());
  return (
    <Button
      id={id}
      hint={hint}
      name="verdict"
      value={answer.id}
      disabled={why !== ""}
      why={why}
      onClick={onPick}
      data-hand
      className={answer.not ? "text-quiet" : ""}
    >
      {answer.text}
    </Button>
  );
}
