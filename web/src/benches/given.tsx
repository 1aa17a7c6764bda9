import { type ReactNode, useState } from "react";
import { asQuantity, say as sayQ, withUnit } from "../model/quantity";
import type { Draft, Units } from "../model/types";
import { toNextField } from "../parts/gauge/typed";
import { faulty } from "../parts/Fault";
import { useKept } from "../parts/kept";
import { useUnitOf } from "../parts/UnitShown";
import { Frame } from "../parts/Frame";
import type { AtStep } from "./bench";

/** A figure of a calculator's input: as it stands, what is wrong with it, and where it may be changed, how. */
export type Given = {
  says: unknown;
  error: string | undefined;
  /** The same where nothing else shows it: at a step. */
  fault?: Error | null;
  onText?: (text: string) => void;
};

/** What a place where one types needs of its bench. */
type Typed = { step?: AtStep; units: Units; given: (path: string) => Given };

type Props = {
  face: Typed;
  path: string;
  label: string;
  /** The label is read out, not shown: the drawing says what stands there. */
  bare?: boolean;
};

type Asked = AtStep["asked"][number];

/** A figure in the drawing, typed where it stands: what the step asks there, or at a loose bench any. */
export function GivenAt({ face, path, label, bare = false }: Props) {
  const asked = face.step?.asked.find(({ ask }) => ask.feeds === path);
  const given = face.given(path);
  return (
    <span className="inline-block align-top">
      {!bare && <span className="block text-quiet text-tiny leading-tight">{label}</span>}
      {face.step && asked && <AskedHere step={face.step} asked={asked} fault={given.fault} narrow={bare} />}
      {face.step && !asked && (
        <b className="font-mono font-medium text-body">{sayOf(given.says, face.units)}</b>
      )}
      {!face.step && <Loose given={given} label={label} narrow={bare} />}
    </span>
  );
}

/** As a figure reads; a stroke where there is none. */
function sayOf(says: unknown, units: Units): string {
  const q = asQuantity(says);
  if (q) return sayQ(q, units);
  return typeof says === "string" || typeof says === "number" ? String(says) : "–";
}

const box =
  "min-h-11 px-2 border bg-field font-mono font-medium text-body " +
  "focus-visible:outline-[3px] outline-blue -outline-offset-[1px]";

const Loose = ({ given, label, narrow }: { given: Given; label: string; narrow: boolean }) => (
  <input
    aria-label={label}
    data-takes
    autoComplete="off"
    value={typeof given.says === "string" ? given.says : ""}
    aria-invalid={given.error ? true : undefined}
    title={given.error}
    onChange={(e) => given.onText?.(e.target.value)}
    onKeyDown={(e) => e.key === "Enter" && toNextField()}
    className={`${box} ${narrow ? "w-[102px]" : "w-[112px]"} ${given.error ? "border-out" : "border-ink"}`}
  />
);

type AskedProps = { step: AtStep; asked: Asked; fault: Error | null | undefined; narrow: boolean };

/** What the step asks here: typed, or as it was recorded, to be corrected by a touch. */
function AskedHere({ step, asked, fault, narrow }: AskedProps) {
  const { ask, entry } = asked;
  const [again, setAgain] = useState(false);
  if (!entry || again)
    return <TypedHere {...{ step, asked, fault, narrow }} onDone={() => setAgain(false)} />;
  return (
    <button
      type="button"
      title="correct this"
      aria-label={`${ask.text}: ${entry.body.typed || entry.body.value?.value}, correct it`}
      className="min-h-11 px-1 font-mono font-medium text-body bg-sheet/80"
      onClick={() => setAgain(true)}
    >
      {entry.body.typed || `${entry.body.value?.value} ${entry.body.value?.unit}`}
    </button>
  );
}

/** The name of the place where it stands what is wrong with an answer. */
export const faultOf = (ask: string) => `fault.${ask}`;

/** What is typed for an answer, until it is recorded. */
function useTyped(step: AtStep, { ask, entry }: Asked, onDone: () => void) {
  const [typed, setTyped] = useKept(`given.${step.id}.${ask.id}`);
  const current = step.asked.find((a) => !a.ask.optional && !a.entry)?.ask.id === ask.id;
  const [unit] = useUnitOf(step.id, ask.units, current);
  const draftOf = (text: string): Draft | undefined =>
    text.trim() === ""
      ? undefined
      : {
          act: "reading",
          item: entry?.item ?? ask.id,
          value: withUnit(text, unit),
          ...(entry && { supersedes: entry.id }),
        };
  const type = (text: string) => {
    setTyped(text);
    step.onTyping(draftOf(text));
  };
  const take = () => {
    const d = draftOf(typed);
    if (!d) return;
    step.say(d, () => {
      type("");
      onDone();
    });
  };
  return { typed, type, take, unit, current };
}

/**
 * Where an answer is typed in a drawing: its unit records it by a touch; what is wrong stands below the
 * drawing.
 */
export function TypedHere({ step, asked, fault, narrow, onDone }: AskedProps & { onDone: () => void }) {
  const { ask, entry } = asked;
  const { typed, type, take, unit, current } = useTyped(step, asked, onDone);
  const edge = fault ? "border-out" : current ? "border-blue" : "border-ink";
  return (
    <form
      data-current={current || undefined}
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <span className={`flex items-stretch border bg-field ${edge} focus-within:outline-[3px] outline-blue`}>
        <input
          aria-label={ask.text}
          data-takes
          value={typed}
          autoFocus={current || entry !== undefined}
          inputMode="decimal"
          autoComplete="off"
          {...faulty(fault, faultOf(ask.id))}
          onChange={(e) => type(e.target.value)}
          onKeyDown={(e) => e.key === "Escape" && onDone()}
          className={`${narrow ? "w-[50px] px-1" : "w-[80px] px-1.5"} ${line}`}
        />
        <button
          type="submit"
          aria-label={`${unit}: record ${ask.text}`}
          className="min-h-11 min-w-11 px-1 border-l border-hair text-tiny text-quiet"
        >
          {unit}
        </button>
      </span>
    </form>
  );
}

const line = "min-h-11 bg-transparent font-mono font-medium text-body focus-visible:outline-none";

/** A step asks for what stands at this place of the input. */
export const asksFor = ({ step }: Pick<Typed, "step">, path: string): boolean =>
  step?.asked.some(({ ask }) => ask.feeds === path) === true;

type RowProps = { face: Typed; fields: readonly (readonly [path: string, label: string])[] };

/** Fields beside each other below a drawing. */
export const GivenRow = ({ face, fields }: RowProps) => (
  <div className="flex flex-wrap gap-3 px-3.5 pb-3">
    {fields.map(([path, label]) => (
      <GivenAt key={path} face={face} path={path} label={label} />
    ))}
  </div>
);

type OverFieldsProps = RowProps & {
  face: Typed & { title: string; rest: (taken: readonly string[]) => ReactNode };
  children: ReactNode;
};

/** A drawing with the fields it is told by in a row below it; the form asks for the rest. */
export const OverFields = ({ face, fields, children }: OverFieldsProps) => (
  <>
    <Frame label={face.title} block={face.step && [["sheet", face.step.sheet]]} wide>
      {children}
      <GivenRow face={face} fields={fields} />
    </Frame>
    {face.rest(fields.map(([path]) => path.split(".")[0] ?? path))}
  </>
);

export type PlaceOver = { x: number; y: number; shows: ReactNode };
type LaidProps = { width: number; height: number; places: PlaceOver[] };

/** Places over a drawing where one types; x and y are in the drawing's own figures. */
export const Laid = ({ width, height, places }: LaidProps) =>
  places.map(({ x, y, shows }, i) => (
    <div
      key={i}
      className="absolute -translate-x-1/2"
      style={{ left: `${(100 * x) / width}%`, top: `${(100 * y) / height}%` }}
    >
      {shows}
    </div>
  ));

type OverProps = LaidProps & { says: string; children: ReactNode };

/** A drawing with places over it. */
export const Over = ({ width, height, says, children, places }: OverProps) => (
  <div className="relative min-w-[560px] max-w-[900px] mx-auto">
    <svg viewBox={`0 0 ${width} ${height}`} className="block w-full" role="img" aria-label={says}>
      {children}
    </svg>
    <Laid width={width} height={height} places={places} />
  </div>
);
