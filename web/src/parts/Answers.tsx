import { type KeyboardEvent, useId } from "react";
import { useKey } from "./keys";

export type AnswerShown = { id: string; text: string; good?: boolean };

type Props = {
  label: string;
  answers: readonly AnswerShown[];
  chosen: string | undefined;
  /** The line where the hand is: its answers have the figures as keys. */
  keyed: boolean;
  /** What the server is just writing is not picked again. */
  busy?: boolean;
  /** A pick only marks; a button elsewhere writes. Then the arrow keys pick as they go. */
  marks?: boolean;
  onPick: (id: string) => void;
  /** The answer where the hand is, before it is given; undefined when it leaves. */
  onNear?: ((id: string | undefined) => void) | undefined;
};

/** The radio an arrow key leads to, and the focus on it. */
function moved(e: KeyboardEvent<HTMLElement>) {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
  if (by === undefined) return undefined;
  e.preventDefault();
  const radios = [...e.currentTarget.querySelectorAll<HTMLElement>("[role=radio]")];
  const now = radios.findIndex((r) => r === document.activeElement);
  const to = (now + by + radios.length) % radios.length;
  radios[to]?.focus();
  return to;
}

/**
 * A few answers of which one is given. Arrow keys go from one to the next, and
 * nothing is written before Space, Enter, its figure or a touch picks it.
 */
export function Answers({ label, answers, chosen, keyed, busy = false, marks, onPick, onNear }: Props) {
  const group = useId();
  const at = Math.max(
    0,
    answers.findIndex((a) => a.id === chosen),
  );
  return (
    <div
      role="radiogroup"
      tabIndex={-1}
      aria-label={label}
      data-hands={(keyed && chosen === undefined) || undefined} // not the minutes below
      className="flex flex-wrap gap-y-1.5"
      onKeyDown={(e) => {
        const to = answers[moved(e) ?? -1];
        if (marks && to) onPick(to.id);
      }}
    >
      {answers.map((a, i) => (
        <Answer
          key={a.id}
          id={`${group}${a.id}`}
          answer={a}
          chosen={a.id === chosen}
          tab={i === at}
          busy={busy}
          hint={keyed ? `${(i + 1) % 10}` : undefined}
          onPick={() => onPick(a.id)}
          onNear={onNear && ((near) => onNear(near ? a.id : undefined))}
        />
      ))}
    </div>
  );
}

type AnswerProps = {
  id: string;
  answer: AnswerShown;
  chosen: boolean;
  tab: boolean;
  busy: boolean;
  hint: `${number}` | undefined;
  onPick: () => void;
  onNear: ((near: boolean) => void) | undefined;
};

function Answer({ id, answer, chosen, tab, busy, hint, onPick, onNear }: AnswerProps) {
  const pick = () => !busy && !chosen && onPick();
  useKey(hint ?? "0", hint ? `answer: ${answer.text}` : "", pick, hint !== undefined && !busy);
  const look = chosen ? "border-ink bg-ink text-sheet font-semibold z-1" : "border-ink bg-sheet";
  return (
    <button
      id={id}
      type="button"
      value={answer.id}
      role="radio"
      aria-checked={chosen}
      aria-disabled={busy || undefined}
      tabIndex={tab ? 0 : -1}
      onClick={pick}
      onFocus={() => onNear?.(true)}
      onBlur={() => onNear?.(false)}
      onPointerEnter={() => onNear?.(true)}
      onPointerLeave={() => onNear?.(false)}
      className={`min-h-11 px-3.5 border -ml-px first:ml-0 flex items-center gap-2 ${look}`}
    >
      {chosen && (
        <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
          <path
            d={answer.good === false ? "M6 1v6M6 9v2" : "M1 6.5l3.4 3.4L11 2"}
            fill="none"
            stroke="currentColor"
            strokeWidth="2.2"
          />
        </svg>
      )}
      {answer.text}
      {hint && !chosen && <kbd>{hint}</kbd>}
    </button>
  );
}
