import { type ItemView, liveAt } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

/** Parts washed and made ready: the method with its minutes, then what they are afterwards, side by side. */
export default function CleanStep(p: PropsOf<"clean">) {
  const { view } = p;
  const [way, ...after] = view.items;
  const current = view.items.find((i) => !liveAt(view.entries, "outcome", i.id))?.id;
  if (!way) return null;
  return (
    <div className="border border-ink mt-3.5">
      <Method {...p} way={way} isCurrent={current === way.id} />
      <ul className="grid grid-cols-[repeat(auto-fit,minmax(210px,1fr))] border-t border-ink">
        {after.map((state) => (
          <State key={state.id} {...p} state={state} isCurrent={current === state.id} />
        ))}
      </ul>
    </div>
  );
}

/** How the parts are washed, and how long it really took. */
function Method({ view, say, way, isCurrent }: PropsOf<"clean"> & { way: ItemView; isCurrent: boolean }) {
  const entry = liveAt(view.entries, "outcome", way.id);
  const [minutes, setMinutes] = useKept(`minutes.${view.step.id}`, String(entry?.body.minutes ?? ""));
  const chosen = entry?.body.outcome;
  const took = minutes.trim() === "" ? {} : { minutes };
  return (
    <div data-current={isCurrent || undefined} className={`p-4 border-l-5 ${edge(isCurrent)}`}>
      <fieldset name={way.id}>
        <legend className="text-line mb-1.5">{way.text}</legend>
        <Answers
          label={way.text}
          answers={way.answers.map(({ id, text }) => ({ id, text }))}
          chosen={chosen}
          keyed={isCurrent}
          onPick={(outcome) =>
            say({
              act: "outcome",
              item: way.id,
              outcome,
              ...took,
              ...(entry && { supersedes: entry.id }),
            })
          }
        />
      </fieldset>
      <dl className="mt-2 text-small text-quiet">
        {way.answers.map((a) => (
          <div key={a.id} className={`flex gap-2 ${a.id === chosen ? "text-ink" : ""}`}>
            <dt className="font-medium">{a.text}:</dt>
            <dd>{view.whys[a.id]}</dd>
          </div>
        ))}
      </dl>
      <Field
        label="Minutes taken"
        value={minutes}
        onValue={setMinutes}
        inputMode="numeric"
        className="mt-3 w-[150px]"
      />
      {entry && <p className="mt-1 text-quiet text-small">{entry.by.name}</p>}
    </div>
  );
}

/** One thing the parts are afterwards. */
function State({ view, say, state, isCurrent }: PropsOf<"clean"> & { state: ItemView; isCurrent: boolean }) {
  const entry = liveAt(view.entries, "outcome", state.id);
  return (
    <li data-current={isCurrent || undefined} className={`p-4 border-l-5 ${edge(isCurrent)}`}>
      <fieldset name={state.id}>
        <legend className="text-line mb-1.5">{state.text}</legend>
        <Answers
          label={state.text}
          answers={state.answers.map((a) => ({ ...a, good: a.good ?? false }))}
          chosen={entry?.body.outcome}
          keyed={isCurrent}
          onPick={(outcome) =>
            say({ act: "outcome", item: state.id, outcome, ...(entry && { supersedes: entry.id }) })
          }
        />
      </fieldset>
      {entry && <p className="mt-1 text-quiet text-small">{entry.by.name}</p>}
    </li>
  );
}

const edge = (isCurrent: boolean) => (isCurrent ? "border-l-blue bg-tint/50" : "border-l-transparent");
