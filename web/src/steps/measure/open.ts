import { readPlace } from "../../model/place";
import type { AskView, StepOf, Trial } from "../../model/types";

/** What was answered to a question in a trial. */
export const answered = (trial: Trial | undefined, a: AskView) =>
  trial?.asked.find((e) => readPlace(e.item).name === a.id);

/** The question where the hand is: one that may stay open is passed by. */
export const openAsk = (view: StepOf<"measure">, trial: Trial | undefined) =>
  view.asks.find((a) => !a.optional && !answered(trial, a));
