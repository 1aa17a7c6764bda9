import { Radio, RadioGroup } from "@headlessui/react";
import type { ReactNode } from "react";
import { useKey } from "./keys";
import { pickable } from "./look";

type ChoicesProps<T> = {
  label: string;
  chosen: T;
  onPick: (value: T) => void;
  /** By its figure on the keyboard, where the hand then goes on; else as any pick. */
  onFigure?: (value: T) => void;
  disabled?: boolean;
  /** What the hand is here for: it begins at them, and figures mark them in this order. */
  hands?: readonly T[];
  className?: string;
  children: ReactNode;
};

/** A few of which one is taken: arrow keys and a touch move the mark, a button elsewhere puts it on record. */
export function Choices<T extends string | number>({
  label,
  chosen,
  onPick,
  onFigure = onPick,
  disabled = false,
  hands,
  className = "",
  children,
}: ChoicesProps<T>) {
  return (
    <RadioGroup
      value={chosen}
      onChange={onPick}
      disabled={disabled}
      aria-label={label}
      className={className}
      data-hands={hands && true}
    >
      {hands?.map((h, i) => (
        <Figured key={h} n={`${i + 1}`} enabled={!disabled} onPress={() => onFigure(h)} />
      ))}
      {children}
    </RadioGroup>
  );
}

/** A choice by its figure on the keyboard. */
function Figured({ n, enabled, onPress }: { n: `${number}`; enabled: boolean; onPress: () => void }) {
  useKey(n, `choose number ${n}`, onPress, enabled);
  return null;
}

type ChoiceProps = { value: string | number; marked?: boolean; className?: string; children: ReactNode };

/** One of them, with an edge when it is taken and, in a list of reasons, a mark before it. */
export function Choice({ value, marked = false, className = "px-4 py-2.5", children }: ChoiceProps) {
  return (
    <Radio
      value={value}
      data-id={value}
      className={`group flex gap-3 items-start ${pickable} data-checked:border-l-blue data-checked:bg-tint data-disabled:cursor-default ${className}`}
    >
      {marked && (
        <span
          aria-hidden="true"
          className="mt-1.5 size-4 shrink-0 rounded-full border-2 border-ink group-data-checked:border-5 group-data-checked:border-blue"
        />
      )}
      <span className="grow min-w-0">{children}</span>
    </Radio>
  );
}

type ReasonedProps = {
  id: string;
  title: string;
  text?: string | undefined;
  warn?: string | undefined;
  /** Its figure on the keyboard. */
  figure?: number;
};

/** A choice with its reasons. */
export function Reasoned({ id, title, text, warn, figure }: ReasonedProps) {
  return (
    <Choice value={id} marked>
      <span className="font-semibold text-line">{title}</span>
      {figure && <kbd className="ml-2">{figure}</kbd>}
      {text && <span className="block text-quiet text-note">{text}</span>}
      {warn && (
        <span className="block text-out text-note">
          <b>Not allowed here.</b> {warn}
        </span>
      )}
    </Choice>
  );
}
