import { may, type StepView } from "../model/types";
import { Button } from "../parts/Button";
import type { StepProps } from "./props";

type Props = Pick<StepProps, "say"> & { view: StepView };
type Want = NonNullable<StepView["wants"]>[number];

/** Something does not stand as the step wants it, and nobody has looked. */
export const standsWrong = (view: StepView) => (view.wants ?? []).some((w) => !w.so) && may(view, "stands");

/** How things have to stand before a hand is put to the step: one line, and what is in the way. */
export function Wants({ view, say }: Props) {
  const wants = view.wants ?? [];
  if (wants.length === 0) return null;
  const wrong = standsWrong(view) ? wants.filter((w) => !w.so) : [];
  return (
    <section aria-label="Before you start" className="mt-3">
      <p className="text-line">
        <span className="text-quiet">Before you start: </span>
        {wants.map((w, i) => (
          <span key={w.key} className={!wrong.includes(w) ? "" : "text-undecided font-semibold"}>
            {i > 0 && ", "}
            {i > 0 ? w.says.charAt(0).toLowerCase() + w.says.slice(1) : w.says}
          </span>
        ))}
      </p>
      {wrong.map((w) => (
        <InTheWay key={w.key} want={w} view={view} say={say} />
      ))}
    </section>
  );
}

/** What does not stand so by the record; who has looked says that it does. */
const InTheWay = ({ want, view, say }: Props & { want: Want }) => (
  <div className="border border-ink border-l-8 border-l-undecided p-3 mt-2 flex flex-wrap gap-3 items-center">
    <p className="grow basis-[240px] text-line">
      <b className="font-semibold">{want.now}.</b> Put it right, or look: is it so already?
    </p>
    {may(view, "stands") && (
      <Button
        name="stands"
        value={want.key}
        onClick={() => say({ act: "stands", item: want.key, outcome: want.state })}
      >
        I looked: {want.says}
      </Button>
    )}
  </div>
);
