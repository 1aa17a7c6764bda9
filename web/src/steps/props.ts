import type { AnyDraft, Draft, Kind, PlanCopy, StepOf, StepView } from "../model/types";

/** What the screen of a kind gets. */
export type StepProps<V extends StepView = StepView> = {
  rebuild: string;
  view: V;
  plan: PlanCopy;
  /**
   * Says an entry. It is out of the hand at once, whatever the line does: taken empties the field it was typed in, and
   * what is refused comes back there.
   */
  say: (d: Draft, taken?: () => void) => void;
  fault: Error | null;
  /** What was said when it arose. */
  refused: AnyDraft | undefined;
};

export type PropsOf<K extends Kind> = StepProps<StepOf<K>>;
