import { useId, useState } from "react";
import { withUnit } from "../../model/quantity";
import { type EntryView, type ItemView, liveAt, type StepOf } from "../../model/types";
import { Button } from "../../parts/Button";
import { Fault, faulty } from "../../parts/Fault";
import { useKept } from "../../parts/kept";
import { VerdictShape } from "../../parts/Verdict";
import type { StepProps } from "../props";

type Props = StepProps<StepOf<"check"> | StepOf<"test">> & { item: ItemView; isCurrent: boolean };

/** A line whose answer is a figure: said, or to be typed. */
export function ValueLine(p: Props) {
  const entry = liveAt(p.view.entries, "outcome", p.item.id);
  const [again, setAgain] = useState(false);
  const value = entry?.body.value;
  if (!value || again) return <Typing {...p} entry={entry} again={again} onTaken={() => setAgain(false)} />;
  return (
    <p className="flex items-center gap-3 font-mono text-head font-medium">
      {value.value} {value.unit}
      <span className="font-sans font-normal text-quiet text-small">{entry.by.name}</span>
      <Button look="quiet" onClick={() => setAgain(true)} className="font-sans text-note">
        Correct
      </Button>
    </p>
  );
}

type TypingProps = Props & { entry: EntryView | undefined; again: boolean; onTaken: () => void };

function Typing({ view, item, say, isCurrent, fault, refused, entry, again, onTaken }: TypingProps) {
  const wrong = refused?.item === item.id ? fault : null;
  const id = useId();
  const choice = item.units ?? [];
  const [typed, setTyped] = useKept(`value.${view.step.id}.${item.id}`);
  const [unit, setUnit] = useKept(`unit.${item.value}`, choice[0] ?? "");
  const take = () =>
    say(
      {
        act: "outcome",
        item: item.id,
        value: withUnit(typed, unit),
        ...(entry && { supersedes: entry.id }),
      },
      () => {
        setTyped("");
        onTaken();
      },
    );
  return (
    <form
      className="flex flex-wrap gap-2 items-center"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <input
        aria-label={item.text}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        inputMode="decimal"
        autoFocus={isCurrent || again}
        {...faulty(wrong, id)}
        className="w-36 min-h-11 border border-ink bg-field px-3 font-mono text-head"
      />
      <Button
        look="quiet"
        onClick={() => setUnit(choice[(choice.indexOf(unit) + 1) % choice.length] ?? unit)}
        title="change unit"
      >
        {unit}
      </Button>
      <Button type="submit" disabled={typed.trim() === ""} hint="Enter">
        Record
      </Button>
      <Fault error={wrong} id={id} />
    </form>
  );
}

/** What the card before says at this line. */
export function Before({ item, entry }: { item: ItemView; entry: EntryView | undefined }) {
  const b = entry?.body;
  const outcome = item.answers.find((o) => o.id === b?.outcome);
  return (
    <p className="border-l border-hair pl-3 text-note flex items-center gap-2">
      {outcome && <VerdictShape verdict={outcome.good ? "in" : "out"} size={11} />}
      {b?.value ? `${b.value.value} ${b.value.unit}` : (outcome?.text ?? "no answer")}
    </p>
  );
}
