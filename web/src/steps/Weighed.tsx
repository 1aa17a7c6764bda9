import { benches, type Face } from "../benches/bench";
import { Drawing as Figures, Meaning as Says } from "../benches/generic";
import { valueAt } from "../model/at";
import { inputOf, resultOf } from "../model/results";
import type { WeighedView } from "../model/types";
import { useUnits } from "../data/calc";
import { MarginSlot } from "../parts/MarginSlot";
import type { StepProps } from "./props";

const nothing = () => undefined;

type Props = Pick<StepProps, "plan" | "view" | "say"> & { weighed: WeighedView };

/** What was worked out for a choice: drawn below it, its meaning in the margin. Nobody has to ask for it. */
export function Weighed({ weighed, plan, view, say }: Props) {
  const units = useUnits().data;
  if (weighed.result === undefined && view.figures?.some((f) => !f.entry && f.may)) return null; // it is asked for
  if (weighed.result === undefined)
    return <p className="mt-3.5 text-quiet">What speaks for each is not worked out: {weighed.problem}.</p>;
  const Own = benches[weighed.calc];
  const props: Face<string> = {
    title: view.step.title,
    out: resultOf(weighed.calc, weighed.result),
    input: inputOf(weighed.calc, weighed.input),
    questions: null,
    rest: () => null,
    given: (path) => ({ says: valueAt(weighed.input, path), error: undefined }),
    units,
    touched: -1,
    onTouch: nothing,
    step: {
      id: view.step.id,
      preview: false,
      readings: [],
      asked: [],
      trial: undefined,
      wants: 0,
      limits: undefined,
      sheet: `${plan.sheet.family}, version ${plan.sheet.version}`,
      gauge: undefined,
      photo: undefined,
      camera: null,
      acts: view.acts,
      say,
      onTyping: nothing,
    },
  };
  return (
    <section
      data-weighed={weighed.calc}
      aria-label={`Result: ${view.step.title}, ${weighed.calc.replaceAll("-", " ")}`}
    >
      {Own ? <Own.Drawing {...props} /> : <Figures out={weighed.result} units={units} questions={null} />}
      <MarginSlot>
        {Own ? <Own.Meaning {...props} /> : <Says out={weighed.result} units={units} />}
      </MarginSlot>
    </section>
  );
}
