import type { ComponentType, ReactNode } from "react";
import * as generic from "./generic";
import type { InputOf, ResultOf } from "../model/results";
import type { Given } from "./given";
import { type Later, later } from "../parts/later";
import type { AskView, Draft, Entry, OpenAct, Quantity, Trial, Units } from "../model/types";

/** What a face needs, wherever it stands. */
export type Face<Calc extends string> = {
  title: string;
  /** What the calculator says of what is there and of what is being typed. */
  out: ResultOf<Calc> | undefined;
  /** What the calculator is given, as far as it is known. */
  input: Partial<InputOf<Calc>>;
  /** Says another input, where the face may: at a bench that stands loose. */
  onInput?: (input: Partial<InputOf<Calc>>) => void;
  units: Units;
  /** What asks for what the face does not take itself: the lines of a step, or the form. */
  questions: ReactNode;
  /** The same without what the drawing takes itself, by the names of the input. */
  rest: (taken: readonly string[]) => ReactNode;
  /** A figure of the input by its path: readings[2].reading. */
  given: (path: string) => Given;
  /** Which of the things offered was touched; -1 is none. */
  touched: number;
  onTouch: (i: number) => void;
  /** What a step of a rebuild adds; nothing where the bench stands loose. */
  step?: AtStep;
};

/** What a step adds to a face: what was read and answered there, and what may be said. */
export type AtStep = {
  /** The step's id, by which what is typed here is kept apart. */
  id: string;
  /** That something typed and not yet taken is part of the result. */
  preview: boolean;
  readings: Quantity[];
  /** What is asked, with its answer when there is one. */
  asked: { ask: AskView; entry: Entry | undefined }[];
  trial: Trial | undefined;
  wants: number;
  limits: { min?: Quantity; max?: Quantity } | undefined;
  sheet: string;
  gauge: string | undefined;
  /** The last photograph taken here, and what takes another. */
  photo: string | undefined;
  camera: ReactNode;
  /** What may be written now. */
  acts: readonly OpenAct[];
  say: (d: Draft, then?: () => void) => void;
  /** Tells what is being typed, so that its meaning shows before it is taken. */
  onTyping: (d: Draft | undefined) => void;
};

/** Whether something may be said at the bench now. */
export const mayAt = (step: AtStep | undefined, act: OpenAct["act"]): boolean =>
  step?.acts.some((a) => a.act === act) === true;

/**
 * A calculator with a face. A folder in benches/ that is named as the
 * calculator exports one as default, and is loaded when it is needed. Drawing
 * stands on the sheet, Meaning in the margin; without one of them the generic
 * bench shows the figures there.
 */
export type Bench<Calc extends string> = {
  calc: Calc;
  Drawing?: ComponentType<Face<Calc>>;
  Meaning?: ComponentType<Face<Calc>>;
};

/** Keeps the types of a bench to those of its calculator. */
export const bench = <Calc extends string>(b: Bench<Calc>) => b;

const folders = import.meta.glob<{ default: Bench<string> }>("./*/index.tsx");

type Drawn = Later<Face<string>>;

const rest = { Drawing: generic.Drawing, Meaning: generic.Meaning };

const part = (load: () => Promise<{ default: Bench<string> }>, name: "Drawing" | "Meaning"): Drawn =>
  later(async () => (await load()).default[name] ?? rest[name]);

/** Drawing and meaning of every calculator that has a folder, by its name. */
export const benches: Record<string, { Drawing: Drawn; Meaning: Drawn }> = Object.fromEntries(
  Object.entries(folders).map(([path, load]) => [
    path.split("/")[1] ?? "",
    { Drawing: part(load, "Drawing"), Meaning: part(load, "Meaning") },
  ]),
);
