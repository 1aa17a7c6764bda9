import { useState } from "react";
import { said } from "../../model/json";
import type { EntryView } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { TakePhoto } from "../../parts/TakePhoto";
import { Hazards, hazardsOf } from "./Hazards";
import { extrasOf, type LineProps, live } from "./props";
import { Before, ValueLine } from "./ValueLine";

/** One line: what to look at, what can happen there, and what was seen. */
export function Line(p: LineProps) {
  const { view, item, isCurrent } = p;
  const { beside } = extrasOf(view);
  const hand = useAnswer(p);
  return (
    <li
      data-current={isCurrent || undefined}
      className={`border-b border-hair last:border-b-0 ${isCurrent ? "border-l-5 border-l-blue bg-tint/50" : "border-l-5 border-l-transparent"}`}
    >
      <div
        className={`px-3.5 py-2.5 ${beside ? "grid grid-cols-[minmax(0,1fr)_minmax(0,150px)] max-[480px]:grid-cols-1 gap-3" : ""}`}
      >
        <fieldset name={item.id}>
          <legend className="text-line mb-1.5">{item.text}</legend>
          <Known says={item.known} />
          <Hazards {...p} held={hand.waits} onRead={hand.read} />
          {item.value && <ValueLine {...p} />}
          {item.answers.length > 0 && !(item.value && hand.entry?.body.value) && (
            <Outcomes {...p} hand={hand} />
          )}
          {(isCurrent || hand.entry) && <BesideIt {...p} hand={hand} />}
          <Why {...p} hand={hand} />
        </fieldset>
        {beside && <Before item={item} entry={live(beside, item.id)} />}
      </div>
    </li>
  );
}

/** What an earlier step found out by the same test. */
const Known = ({ says }: { says: string | undefined }) =>
  says ? <p className="text-quiet text-note mb-1.5">Already known. {says}.</p> : null;

type Hand = ReturnType<typeof useAnswer>;
type HandProps = LineProps & { hand: Hand };

/** The answer of a line as it is being given: what waits for a reason, or for a hazard to be read. */
function useAnswer({ view, say, item }: LineProps) {
  const entry = live(view.entries, item.id);
  /** The answer picked that wants a reason first. */
  const [because, setBecause] = useState("");
  const took = entry?.body.minutes ? String(entry.body.minutes) : "";
  const [minutes, setMinutes] = useKept(`minutes.${view.step.id}.${item.id}`, took);
  const [photo, setPhoto] = useState(entry?.body.photo ?? "");
  const answer = (outcome: string, note?: string) =>
    say(
      {
        act: "outcome",
        item: item.id,
        outcome,
        ...said({ note, minutes: minutes.trim(), photo, supersedes: entry?.id }),
      },
      () => setBecause(""),
    );
  const unreadBefore = (outcome: string) => hazardsOf(item, outcome).filter((c) => c.grave && !c.by);
  /** What was answered before its hazard was read: it is said once that is. */
  const [held, setHeld] = useState("");
  const unread = unreadBefore(held);
  const waits = unread.length > 0 ? held : ""; // somebody else may have read it
  const take = (outcome: string) => {
    if (item.answers.some((a) => a.id === outcome && a.reason)) setBecause(outcome);
    else answer(outcome);
  };
  const read = (id: string) => {
    say({ act: "acknowledge", item: id });
    if (unread.some((c) => c.id !== id) || waits === "") return;
    setHeld("");
    take(held);
  };
  const pick = (outcome: string) =>
    unreadBefore(outcome).length > 0 ? setHeld(outcome) : (setHeld(""), take(outcome));
  const more = minutes !== took || (photo !== "" && photo !== entry?.body.photo);
  return { entry, because, waits, minutes, setMinutes, photo, setPhoto, more, answer, pick, read };
}

/** What may be seen, and who saw what. */
const Outcomes = ({ item, isCurrent, onNear, hand }: HandProps) => (
  <div className="flex flex-wrap items-center gap-y-1.5">
    <Answers
      label={item.value ? `${item.text}: not measured` : item.text}
      answers={item.answers.map((a) => ({ ...a, good: a.good ?? false }))}
      chosen={hand.because || hand.waits || hand.entry?.body.outcome}
      keyed={isCurrent && !item.value}
      onNear={hand.entry ? undefined : onNear}
      onPick={hand.pick}
    />
    {hand.entry && <SaidBy entry={hand.entry} />}
  </div>
);

const SaidBy = ({ entry: { body, by } }: { entry: EntryView }) => (
  <span className="text-quiet text-small pl-3">
    {body.note && `${body.note}, `}
    {body.minutes && `${body.minutes} min, `}
    {by.name}
  </span>
);

/** How long a test of the book took, and a picture. */
function BesideIt({ view, item, rebuild, hand }: HandProps) {
  const { entry, minutes, photo } = hand;
  const tested = view.kind === "test" && view.from_book === "tests";
  const outcome = entry?.body.outcome;
  if (!tested && !item.picture) return null;
  return (
    <div className="mt-1.5 flex flex-wrap gap-2 items-end text-small">
      {tested && (
        <Field
          label="Minutes taken"
          value={minutes}
          onValue={hand.setMinutes}
          inputMode="numeric"
          className="basis-[150px]"
        />
      )}
      {entry?.body.photo ? (
        <a href={`/api/v1/photos/${entry.body.photo}`} target="_blank" rel="noreferrer">
          <img
            src={`/api/v1/photos/${entry.body.photo}/preview`}
            alt={`${item.text}, as it was seen`}
            loading="lazy"
            className="h-14 border border-hair"
          />
        </a>
      ) : (
        <TakePhoto rebuild={rebuild} label={photo ? "Picture taken" : "Picture"} onTaken={hand.setPhoto} />
      )}
      {outcome && hand.more && (
        <Button name="minutes" onClick={() => hand.answer(outcome, entry.body.note)}>
          Save minutes
        </Button>
      )}
    </div>
  );
}

/** Why, where the answer wants a reason or leaves something unsettled. */
function Why({ item, isRest, hand }: HandProps) {
  const { entry, because } = hand;
  if (because)
    return <Because label={`${item.text}: why?`} takesHand onSay={(note) => hand.answer(because, note)} />;
  if (!item.unsettled || !entry || entry.body.note) return null;
  return (
    <Because
      label="Where is it, and what next? Or why it may stay so"
      takesHand={isRest}
      onSay={(note) => hand.answer(entry.body.outcome ?? "", note)}
    />
  );
}

type BecauseProps = { label: string; takesHand: boolean; onSay: (note: string) => void };

/**
 * Why there is no figure, or it was not tried, in words. The server's answer may
 * ask for it while the hand is at the next line already: then it waits its turn.
 */
function Because({ label, takesHand, onSay }: BecauseProps) {
  const [note, setNote] = useState("");
  return (
    <form
      className="mt-2 flex flex-wrap gap-2 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (note.trim()) onSay(note.trim());
      }}
    >
      <Field
        label={label}
        value={note}
        onValue={setNote}
        autoFocus={takesHand}
        data-hand
        className="grow basis-[220px]"
      />
      <Button type="submit" name="because" disabled={note.trim() === ""} hint="Enter">
        Record answer
      </Button>
    </form>
  );
}
