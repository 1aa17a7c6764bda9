import { useState } from "react";
import { type AtStep, benches, type Face } from "../../benches/bench";
import { Drawing as Figures, Meaning as Says } from "../../benches/generic";
import { faultOf } from "../../benches/given";
import { partsOf, valueAt } from "../../model/at";
import { circleDrafts } from "../../model/circle";
import { anyResult, inputOf, resultOf } from "../../model/results";
import { type AskView, type Draft, may, type StepOf, type Trial } from "../../model/types";
import { Button } from "../../parts/Button";
import { useUnits } from "../../data/calc";
import type { Circle } from "../../data/gauge";
import { usePreview } from "../../data/rebuilds";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Gauge } from "../../parts/gauge";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { TakePhoto } from "../../parts/TakePhoto";
import { Verdict } from "../../parts/Verdict";
import type { PropsOf } from "../props";
import { Accept } from "./Accept";
import { AskLine } from "./AskLine";
import { answered, openAsk } from "./open";
import { Pack } from "./Pack";
import { Readings } from "./Readings";

type Props = PropsOf<"measure">;

/**
 * The bench of any calculator: what it asks for, readings if it wants them, and
 * what it makes of them. How it is drawn is its folder's in benches/.
 */
export default function MeasureStep(p: Props) {
  const { view } = p;
  const trial = view.trials.at(-1);
  const [draft, setDraft] = useState<Draft | undefined>();
  const { untried, reckoned, previewed, error } = useResult(p, draft);
  const result = previewed ?? trial?.result;
  const wrong = draft ? error : p.fault;
  /** What is wrong at a place: with what is typed there, or was refused there. */
  const errorAt = (item: string) => ((draft ?? p.refused)?.item === (item || undefined) ? wrong : null);
  return (
    <>
      <Before trials={view.trials.slice(0, -1)} />
      <Parts
        {...p}
        trial={trial}
        result={result}
        preview={previewed !== undefined}
        onTyping={setDraft}
        errorAt={errorAt}
      />
      <Speaking {...p} trial={trial} />
      <MeasuredBefore {...p} />
      {view.packs && trial && <Pack {...p} packs={view.packs} trial={trial} />}
      {view.min_readings > 0 && <Readings {...p} onTyping={setDraft} error={errorAt("")} />}
      {reckoned && <Fault error={error} typing />}
      {view.reckons && (
        <Reckon
          {...p}
          says={untried ? "Answer what you tried; leave the rest." : anyResult(result)?.["says"]}
          done={trial?.result !== undefined}
          ready={result !== undefined}
        />
      )}
      <After {...p} trial={trial} open={!draft} />
    </>
  );
}

/** Gauges of the step that speak: a whole turn answers the places of the clock that are asked. */
function Speaking({ view, trial, say }: Props & { trial: Trial | undefined }) {
  if (view.status === "done" || view.status === "locked") return null;
  const places = inputOf(view.calc, view.input)["readings"];
  const asked = view.asks.map((ask) => ({ ask, answered: answered(trial, ask) !== undefined }));
  const turns = view.asks.some((a) => a.feeds?.startsWith("readings["));
  const take = (drafts: Draft[]) => {
    const [first, ...rest] = drafts;
    if (first) say(first, () => take(rest));
  };
  const onCircle = (circle: Circle) => take(circleDrafts(asked, Array.isArray(places) ? places : [], circle));
  return <Gauge gauges={view.instruments} onCircle={turns ? onCircle : undefined} />;
}

/** What a draft would come to, or what the step works out by itself once something was tried. */
function useResult({ view, rebuild }: Props, draft: Draft | undefined) {
  const untried = view.asks.length > 0 && view.trials.at(-1)?.asked.length === 0; // all may stay open, but not all do
  const asked = draft ?? (!untried && mayReckon(view) ? ({ act: "reckon" } satisfies Draft) : undefined);
  const preview = usePreview(rebuild, view.step.id, view.status === "locked" ? undefined : asked);
  return {
    untried,
    reckoned: asked !== undefined && !draft,
    previewed: asked && preview.data?.result,
    error: preview.error,
  };
}

const mayReckon = (view: Props["view"]) =>
  view.reckons && may(view, "reckon") && view.trials.at(-1)?.result === undefined;

type AfterProps = Props & { trial: Trial | undefined; open: boolean };

/** What may follow a result: measure again, or leave it as it is. */
function After({ trial, open, ...p }: AfterProps) {
  const { view } = p;
  if (trial?.accepted) return <p className="mt-3 text-body">Accepted as it is: {trial.accepted}</p>;
  if (trial?.result === undefined || !open || view.status === "done") return null;
  return (
    <>
      {!view.reckons && !view.packs?.asked && may(view, "again") && <Again {...p} />}
      {may(view, "accept") && <Accept {...p} />}
    </>
  );
}

type PartsProps = Props & {
  trial: Trial | undefined;
  result: unknown;
  preview: boolean;
  onTyping: (d: Draft | undefined) => void;
  errorAt: (item: string) => Error | null;
};

/** Drawing and meaning: the calculator's own, or the generic ones. */
function Parts(p: PartsProps) {
  const { rebuild, view, plan, say, trial, result, preview, onTyping } = p;
  const units = useUnits().data;
  const [touched, setTouched] = useState(-1);
  const props: Face<string> = {
    title: view.step.title,
    out: resultOf(view.calc, result),
    input: inputOf(view.calc, view.input),
    questions: <Questions {...p} taken={[]} />,
    rest: (taken) => <Questions {...p} taken={taken} />,
    given(path) {
      const fault = faultAt(p, path);
      return { says: valueAt(view.input, path), error: fault?.message, fault };
    },
    units,
    touched,
    onTouch: setTouched,
    step: {
      id: view.step.id,
      preview,
      ...readAt(view, trial),
      camera: (
        <TakePhoto
          rebuild={rebuild}
          label="Photograph it"
          onTaken={(photo) => say({ act: "note", note: `Photograph: ${view.step.title}.`, photo })}
        />
      ),
      sheet: `${plan.sheet.family}, version ${plan.sheet.version}`,
      acts: view.acts,
      say,
      onTyping,
    },
  };
  const Own = benches[view.calc];
  return (
    <>
      {Own ? <Own.Drawing {...props} /> : <Figures out={result} units={units} questions={props.questions} />}
      {result !== undefined && (
        <MarginSlot>{Own ? <Own.Meaning {...props} /> : <Says {...props} out={result} />}</MarginSlot>
      )}
    </>
  );
}

/** What is wrong with what is typed in the drawing. */
function faultAt({ view, trial, errorAt }: PartsProps, path: string): Error | null {
  const ask = view.asks.find((a) => a.feeds === path);
  return ask ? errorAt(answered(trial, ask)?.item ?? ask.id) : null;
}

/** What is asked and not taken by the drawing, a line each; and what is wrong with what is typed in it. */
function Questions({
  view,
  trial,
  say,
  onTyping,
  errorAt,
  taken,
}: PartsProps & { taken: readonly string[] }) {
  const isDrawn = (a: AskView) => !a.choices?.length && taken.includes(partsOf(a.feeds ?? "")[0] ?? "");
  const asks = view.asks.filter((a) => !isDrawn(a));
  const faults = view.asks.filter(isDrawn).map((a) => {
    const error = errorAt(answered(trial, a)?.item ?? a.id);
    return <Fault key={a.id} id={faultOf(a.id)} error={error} typing />;
  });
  if (asks.length === 0) return faults;
  const current = openAsk(view, trial);
  return (
    <>
      {faults}
      <div className="border border-ink mt-3.5">
        {trial?.changed && (
          <p className="px-4 py-2 border-b border-ink text-quiet text-note">
            Trial {trial.number}. Changed: {trial.changed}
          </p>
        )}
        <ul>
          {asks.map((a) => (
            <AskLine
              key={`${trial?.number}.${a.id}`}
              ask={a}
              step={view.step.id}
              entry={answered(trial, a)}
              isCurrent={a.id === current?.id && !trial?.accepted}
              error={errorAt(answered(trial, a)?.item ?? a.id)}
              onTyping={onTyping}
              onTake={(d, then) =>
                say(d, () => {
                  onTyping(undefined);
                  then?.();
                })
              }
            />
          ))}
        </ul>
      </div>
    </>
  );
}

type ReadThere = Pick<AtStep, "readings" | "asked" | "trial" | "wants" | "limits" | "gauge" | "photo">;

function readAt(view: StepOf<"measure">, trial: Trial | undefined): ReadThere {
  const used = trial?.readings.at(-1)?.body.instrument ?? view.instruments[0]?.id;
  return {
    readings: trial?.readings.flatMap((e) => e.body.value ?? []) ?? [],
    asked: view.asks.map((ask) => ({ ask, entry: answered(trial, ask) })),
    trial,
    wants: view.min_readings,
    limits: view.limits,
    gauge: view.instruments.find((i) => i.id === used)?.name,
    photo: view.entries.findLast((e) => e.body.photo && !e.superseded_by)?.body.photo,
  };
}

/** Trials before this one, each with what it came to. */
function Before({ trials }: { trials: Trial[] }) {
  if (trials.length === 0) return null;
  return (
    <ol aria-label="Earlier trials" className="border border-ink mt-3.5">
      {trials.map((t) => (
        <li
          key={t.number}
          className="flex flex-wrap gap-3 px-4 py-2 border-b border-hair last:border-b-0 text-note"
        >
          <span className="w-24 text-quiet">{t.number === 1 ? "as found" : `trial ${t.number}`}</span>
          <Verdict verdict={t.verdict ?? ""} small />
          <span className="grow basis-[220px]">{String(anyResult(t.result)?.["says"] ?? "")}</span>
        </li>
      ))}
    </ol>
  );
}

/** What the same measured before it came apart, and in the unit's rebuilds before this one. */
function MeasuredBefore({ view: { before } }: Props) {
  if (!before) return null;
  return (
    <ul aria-label="Measured before" className="border-l-4 border-hair pl-3 mt-3.5 text-note">
      {before.map((m) => (
        <li key={`${m.number} ${m.found} ${m.ask}`} className="flex flex-wrap gap-x-3">
          <span className="text-quiet">{m.found ? "Before it came apart" : `In ${m.number}`}</span>
          {m.text && <span>{m.text}</span>}
          <span className="font-mono">{m.says}</span>
        </li>
      ))}
    </ul>
  );
}

/** A step that works itself out from sheet and record alone. */
function Reckon({ say, says, done, ready }: Props & { says: unknown; done: boolean; ready: boolean }) {
  const reckon = () => say({ act: "reckon" });
  useKey("act", "record the result", reckon, ready);
  const rest = done ? "Recorded." : "All figures are known. Record the result.";
  return (
    <div className="border border-ink mt-3.5 p-4 flex flex-wrap gap-4 items-center">
      <p className="grow basis-[260px] text-line">{typeof says === "string" ? says : rest}</p>
      <Button look="go" hint="F" name="reckon" disabled={!ready} onClick={reckon}>
        {done ? "Work it out again" : "Record result"}
      </Button>
    </div>
  );
}

/** Something was changed: another trial begins. */
function Again({ say, view }: Props) {
  const [changed, setChanged] = useKept(`again.${view.step.id}`);
  const again = () => say({ act: "again", reason: changed }, () => setChanged(""));
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-3.5"
      onSubmit={(e) => {
        e.preventDefault();
        again();
      }}
    >
      <Field
        label="What did you change?"
        value={changed}
        onValue={setChanged}
        className="grow basis-[260px]"
      />
      <Button type="submit" look="go" name="again" disabled={changed.trim() === ""}>
        Measure again
      </Button>
    </form>
  );
}
