import type { Draft, PlanCopy, StepView } from "../api/types";

/** What every step component gets. */
export type StepProps = {
  rebuild: string;
  view: StepView;
  plan: PlanCopy;
  /** Writes an entry; its fault shows under the drawing. */
  say: (d: Draft, then?: () => void) => void;
  busy: boolean;
  fault: Error | null;
  mayWrite: boolean;
};
