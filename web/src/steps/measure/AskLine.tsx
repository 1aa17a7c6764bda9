import { useState } from "react";
import { asQuantity, sayFigure, withUnit } from "../../model/quantity";
import type { AskView, Draft, Entry } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { useUnits } from "../../data/calc";
import { Fault, faulty } from "../../parts/Fault";
import { useKept } from "../../parts/kept";
import { UnitShown, useUnitOf } from "../../parts/UnitShown";

type Props = {
  ask: AskView;
  step: string;
  entry: Entry | undefined;
  isCurrent: boolean;
  onTyping: (d: Draft | undefined) => void;
  onTake: (d: Draft, then?: () => void) => void;
  /** What is wrong with what is typed here, or was taken here and refused. */
  error: Error | null;
};

/** One figure that is asked for, with what the sheet says of it. */
export function AskLine(p: Props) {
  const { ask, entry, isCurrent } = p;
  const units = useUnits().data;
  const says =
    ask.sheet === undefined || isZero(ask.sheet) ? "" : sayFigure(ask.sheet, units, ask.units?.[0]);
  return (
    <li
      data-current={isCurrent || undefined}
      className={`border-b border-hair last:border-b-0 border-l-5 px-3.5 py-2 flex flex-wrap gap-x-4 gap-y-1.5 items-center ${isCurrent ? "border-l-blue bg-tint/50" : "border-l-transparent"}`}
    >
      <span className="grow basis-[190px]">
        <span className="text-line">{ask.text}</span>
        {says && <span className="block text-quiet text-small">sheet: {says}</span>}
        {ask.optional && <span className="block text-quiet text-small">optional</span>}
      </span>
      {ask.choices?.length ? <Choices {...p} /> : <Value key={entry ? "said" : "open"} {...p} />}
      <div className="basis-full empty:hidden">
        <Fault error={p.error} id={`fault.${ask.id}`} typing />
      </div>
    </li>
  );
}

/** A sheet that says nought only says where the reading begins. */
const isZero = (figure: unknown) => figure === 0 || asQuantity(figure)?.value === 0;

function Choices({ ask, entry, isCurrent, onTake }: Props) {
  const pick = (outcome: string) =>
    onTake({ act: "reading", item: entry?.item ?? ask.id, outcome, ...(entry && { supersedes: entry.id }) });
  return (
    <Answers
      label={ask.text}
      answers={ask.choices ?? []}
      chosen={entry?.body.outcome}
      keyed={isCurrent}
      onPick={pick}
    />
  );
}

/** A value that was said, which a touch corrects, or where it is typed. */
function Value(p: Props) {
  const { ask, entry } = p;
  const [again, setAgain] = useState(false);
  if (!entry || again) return <Typing {...p} again={again} onTaken={() => setAgain(false)} />;
  const said = entry.body.typed || `${entry.body.value?.value} ${entry.body.value?.unit}`;
  return (
    <button
      type="button"
      title="correct this"
      aria-label={`${ask.text}: ${said}, correct it`}
      onClick={() => setAgain(true)}
      className="min-h-11 px-2 font-mono text-head font-medium"
    >
      {said}
    </button>
  );
}

type TypingProps = Props & { again: boolean; onTaken: () => void };

function Typing({ ask, step, entry, isCurrent, onTyping, onTake, error, again, onTaken }: TypingProps) {
  const [typed, setTyped] = useKept(`ask.${step}.${ask.id}`);
  const [unit, turn] = useUnitOf(step, ask.units, isCurrent);
  const draftOf = (text: string): Draft | undefined =>
    text.trim() === ""
      ? undefined
      : {
          act: "reading",
          item: entry?.item ?? ask.id,
          value: withUnit(text, unit),
          ...(entry && { supersedes: entry.id }),
        };
  const take = () => {
    const d = draftOf(typed);
    if (!d) return;
    onTake(d, () => {
      setTyped("");
      onTaken();
    });
  };
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <span className="flex items-center border border-ink bg-field focus-within:outline-[3px] outline-blue -outline-offset-[1px]">
        <input
          aria-label={ask.text}
          data-takes
          value={typed}
          autoFocus={isCurrent || again}
          inputMode="decimal"
          autoComplete="off"
          {...faulty(error, `fault.${ask.id}`)}
          onChange={(e) => {
            setTyped(e.target.value);
            onTyping(draftOf(e.target.value));
          }}
          className="w-28 min-h-11 px-3 bg-transparent font-mono text-head focus-visible:outline-none"
        />
        <UnitShown unit={/[a-zµ"°]/i.test(typed) ? "" : unit} turn={turn} />
      </span>
      <Button type="submit" look={isCurrent ? "plain" : "quiet"} disabled={typed.trim() === ""}>
        Record
      </Button>
    </form>
  );
}
