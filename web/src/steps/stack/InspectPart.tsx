import { useId, useRef, useState } from "react";
import type { Answer } from "../../model/types";
import { lifeWords, wornOf } from "../../model/wear";
import { asQuantity, sameKind, say as sayQuantity } from "../../model/quantity";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { useUnits } from "../../data/calc";
import { usePreview } from "../../data/rebuilds";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { ReadWith } from "../measure/ReadWith";
import type { PartProps } from "./acts";
import { LifeLine } from "./LifeLine";
import { Once } from "./Once";

/** A part is looked at: what was seen, what was measured of it against new and limit, and the verdict. */
export function InspectPart(p: PartProps) {
  const { view, part, say, correcting } = p;
  const usual = correcting
    ? (part.reason ?? "")
    : part.not_found
      ? "was not there when taken apart"
      : (part.damage ?? "");
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`, usual);
  const [work, setWork] = useKept(`${view.step.id}.work/${part.id}`, correcting ? (part.work ?? "") : "");
  const wear = useWear(p);
  const form = useRef<HTMLFormElement>(null);
  const judge = (outcome: string) =>
    say(
      {
        act: "verdict",
        item: part.id,
        outcome,
        ...(reason.trim() && { reason }),
        ...(outcome === "rework" && work && { work }),
        ...(wear.worn && { wear: wear.worn, ...(wear.gauge && { instrument: wear.gauge }) }),
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
    const past = wear.unsure || (wear.left !== undefined && wear.left < 0);
    if (x.id === "reuse" ? past : x.reason === true && !(x.id === "replace" && wear.worn))
      return "Say first what was seen.";
    return "";
  };
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting && "Correct: "}
        {part.name}
        <Once part={part} />
        {part.not_found && (
          <span className="ml-3 text-small font-normal text-out">
            <span className="sr-only">, </span>was not there
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
          label="What was seen"
          value={reason}
          onValue={setReason}
          hotkey="tray"
          className="grow basis-[220px]"
        />
        {part.answers.map((x, i) => (
          <Judge key={x.id} hint={`${i + 1}`} answer={x} why={wants(x)} onPick={() => judge(x.id)} />
        ))}
      </form>
      <div className="flex flex-wrap gap-x-5 gap-y-2 items-end mt-2">
        {wear.fields}
        <Answers
          label="Reworked by"
          answers={view.works.map((id) => ({ id, text: id }))}
          chosen={work}
          keyed={false}
          marks
          onPick={(id) => setWork(id === work ? "" : id)}
        />
      </div>
    </div>
  );
}

/** What is measured of the part: the sheet's figures stand there already. */
function useWear({ rebuild, view, part, correcting }: PartProps) {
  const units = useUnits().data;
  const place = `${view.step.id}.wear/${part.id}`;
  const sheet = view.wears[part.id];
  const was = correcting ? part.wear : undefined;
  const text = (q: { value: number; unit: string } | undefined) => (q ? sayQuantity(q, units) : "");
  const [open, setOpen] = useState(sheet !== undefined || was !== undefined);
  const [what, setWhat] = useKept(`${place}.what`, was?.what ?? sheet?.what ?? "");
  const [value, setValue] = useKept(`${place}.value`, was?.readings?.map(text).join(" ") ?? text(was?.value));
  const [fresh, setFresh] = useKept(`${place}.new`, text(was?.new ?? sheet?.new));
  const [limit, setLimit] = useKept(`${place}.limit`, text(was?.limit ?? sheet?.limit));
  const [gauge, setGauge] = useKept(`${view.step.id}.gauge`);
  const worn = open ? wornOf({ what, value, new: fresh, limit }) : undefined;
  const kind = asQuantity(worn?.limit) ?? sheet?.limit;
  const gauges = (view.gauges ?? []).filter((g) =>
    sameKind(g.resolution?.unit ?? "", kind?.unit ?? "mm", units),
  );
  const readWith = gauges.find((g) => g.id === gauge);
  // To be replaced wants no reason: so the server says of any reading what it means.
  const read = usePreview(
    rebuild,
    view.step.id,
    worn && {
      act: "verdict",
      item: part.id,
      outcome: "replace",
      wear: worn,
      ...(readWith && { instrument: readWith.id }),
    },
  ).data;
  const shown = worn && read?.body.wear;
  const unsure = read?.verdict === "undecided";
  const left = shown && (shown.left ?? 0);
  const fields = open ? (
    <div className="flex flex-wrap gap-2 items-end grow">
      <Field
        label="Measured of it"
        placeholder="thickness"
        value={what}
        onValue={setWhat}
        className="basis-[120px] grow"
      />
      <Field
        label="It has, once or several times"
        value={value}
        onValue={setValue}
        inputMode="text"
        className="basis-[170px]"
      />
      <Field label="As new" value={fresh} onValue={setFresh} inputMode="decimal" className="basis-[100px]" />
      <Field label="Limit" value={limit} onValue={setLimit} inputMode="decimal" className="basis-[100px]" />
      <ReadWith
        kind=""
        instruments={[{ id: "", kind: "", name: "no gauge named" }, ...gauges]}
        value={readWith?.id ?? ""}
        onPick={setGauge}
      />
      {shown && (
        <p role="status" className="min-h-11 flex gap-3 items-center">
          <LifeLine worn={shown} units={units} />
          {left !== undefined && (
            <b className={`font-semibold ${unsure ? "text-undecided" : left < 0 ? "text-out" : "text-in"}`}>
              {unsure ? "too close to its limit to tell" : lifeWords(left)}
            </b>
          )}
        </p>
      )}
    </div>
  ) : (
    <Button look="quiet" onClick={() => setOpen(true)}>
      Measure it
    </Button>
  );
  const clear = () => {
    for (const set of [setWhat, setValue, setFresh, setLimit]) set("");
  };
  return { worn, left, unsure, gauge: readWith?.id ?? "", fields, clear };
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
