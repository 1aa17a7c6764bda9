import { useState } from "react";
import { usePreview, useUnits } from "../../api/hooks";
import { withUnit } from "../../api/quantity";
import type { Ask, Draft, Entry, Trial, Verdict as V } from "../../api/types";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { Verdict } from "../../parts/Verdict";
import { Accept } from "../../steps/Accept";
import type { StepProps } from "../../steps/props";
import { ReadingStrip, valuesBut } from "../../steps/ReadingStrip";
import { ReadWith } from "../../steps/ReadWith";
import { AskLine } from "./AskLine";
import { Lists, Meaning, type Result } from "./Meaning";

/** The bench of any calculator: what it asks for, readings if it wants them, and what it makes of them. */
export default function FiguresStep(p: StepProps) {
  const { view, rebuild, say, busy } = p;
  const units = useUnits().data;
  const spec = view.step.measure;
  const trials = view.measure?.trials ?? [];
  const trial = trials.at(-1);
  const asks = spec?.asks ?? [];
  const wants = spec?.min_readings ?? 0;
  const current = asks.find((a) => !a.optional && !answered(trial, a));
  const [draft, setDraft] = useState<Draft | undefined>();
  const reckons = wants === 0 && asks.every((a) => a.optional);
  const asked = draft ?? (p.mayWrite && reckons && !trial?.result ? ({ act: "reckon" } as Draft) : undefined);
  const preview = usePreview(rebuild, view.step.id, view.status === "locked" ? undefined : asked);
  const previewed = (asked && (preview.data as Entry | undefined)?.result) as Result | undefined;
  const shown = previewed ?? (trial?.result as Result | undefined);
  const take = (d: Draft) => say(d, () => setDraft(undefined));
  const reckon = () => say({ act: "reckon" });
  useKey("F", "put it on record", reckon, reckons && !busy && shown !== undefined);
  const done = trial?.result !== undefined;
  return (
    <>
      {trials.length > 1 && <Before trials={trials.slice(0, -1)} />}
      {asks.length > 0 && (
        <div className="border-[1.2px] border-ink mt-3.5">
          {trial?.changed && <p className="px-4 py-2 border-b-[1.2px] border-ink text-quiet text-[15px]">Trial {trial.number}, after: {trial.changed}</p>}
          <ul>
            {asks.map((a) => (
              <AskLine key={`${trial?.number}.${a.id}`} ask={a} step={view.step.id} entry={answered(trial, a)} sheet={view.measure?.sheet?.[a.id]} isCurrent={a.id === current?.id && !trial?.accepted}
                units={units} busy={busy} onTyping={setDraft} onTake={take} />
            ))}
          </ul>
        </div>
      )}
      {wants > 0 && <Readings {...p} onTyping={setDraft} invalid={preview.error !== null && draft !== undefined} />}
      {asked && <Fault error={preview.error} />}
      {reckons && (
        <div className="border-[1.2px] border-ink mt-3.5 p-4 flex flex-wrap gap-4 items-center">
          <p className="grow basis-[260px] text-[17px]">{shown?.says ?? (done ? "On record." : "Everything it needs is on the sheet and in the record.")}</p>
          <Button look="go" hint="F" disabled={busy || shown === undefined} onClick={reckon}>{done ? "Work it out again" : "Put it on record"}</Button>
        </div>
      )}
      {shown && <Lists out={shown} units={units} />}
      {done && !trial?.accepted && view.status !== "done" && (
        <>
          {!reckons && <Again {...p} />}
          <Accept {...p} />
        </>
      )}
      {trial?.accepted && <p className="mt-3 text-[16px]">Left as it is: {trial.accepted}</p>}
      {shown && <MarginSlot><Meaning out={shown} units={units} preview={previewed !== undefined} /></MarginSlot>}
    </>
  );
}

const answered = (trial: Trial | undefined, a: Ask) => trial?.asked.find((e) => e.item?.endsWith(`.${a.id}`));

/** Trials before this one, each with what it came to. */
function Before({ trials }: { trials: Trial[] }) {
  return (
    <ol aria-label="Trials before" className="border-[1.2px] border-ink mt-3.5">
      {trials.map((t) => (
        <li key={t.number} className="flex flex-wrap gap-3 px-4 py-2 border-b border-hair last:border-b-0 text-[15.5px]">
          <span className="w-24 text-quiet">{t.number === 1 ? "as found" : `trial ${t.number}`}</span>
          <Verdict verdict={(t.verdict ?? "") as V} small />
          <span className="grow basis-[220px]">{(t.result as Result | undefined)?.says}</span>
        </li>
      ))}
    </ol>
  );
}

/** The strip of readings, with the instrument at hand. */
function Readings(p: StepProps & { onTyping: (d: Draft | undefined) => void; invalid: boolean }) {
  const { view, say, onTyping } = p;
  const instruments = view.measure?.instruments ?? [];
  const trial = view.measure?.trials.at(-1);
  const [typed, setTyped] = useKept(`${view.step.id}.reading/${trial?.number ?? 1}`);
  const [instrument, setInstrument] = useKept(`instrument.${view.step.id}`, instruments[0]?.id ?? "");
  const unit = instruments.find((i) => i.id === instrument)?.resolution?.unit ?? view.step.measure?.unit ?? "mm";
  const [correcting, setCorrecting] = useState("");
  const draftOf = (text: string): Draft | undefined => text.trim() === "" ? undefined : { act: "reading", value: withUnit(text, unit), ...(instrument && { instrument }), ...(correcting && { supersedes: correcting }) };
  const type = (text: string) => { setTyped(text); onTyping(draftOf(text)); };
  const asked = useAsked(typed, unit, valuesBut(trial, correcting));
  const take = () => { const d = draftOf(typed); if (d && asked.may()) say(d, () => { type(""); setCorrecting(""); }); };
  return (
    <>
      <ReadingStrip trials={view.measure?.trials ?? []} entries={view.entries} typed={typed} onTyped={type} unit={unit} onTake={take} correcting={correcting} invalid={p.invalid}
        onCorrect={(id) => { setCorrecting(id); type(""); }} onStrike={(id) => say({ act: "strike", supersedes: id }, () => setCorrecting(""))} />
      <Asked question={asked.question} />
      <LeftBehind place={`${view.step.id}.reading`} name={(at) => (at === String(trial?.number ?? 1) ? undefined : `trial ${at}`)} />
      <div className="flex flex-wrap gap-2 mt-2.5 items-center text-[14.5px] text-quiet">
        <ReadWith instruments={instruments} value={instrument} onPick={setInstrument} />
        <span className="ml-auto">{view.step.measure?.min_readings} readings at least</span>
        <span><kbd>Enter</kbd> take</span>
      </div>
    </>
  );
}

/** Something was changed: another trial begins. */
function Again({ say, busy, view }: StepProps) {
  const [changed, setChanged] = useKept(`again.${view.step.id}`);
  return (
    <form className="flex flex-wrap gap-2 items-end mt-3.5" onSubmit={(e) => { e.preventDefault(); say({ act: "again", reason: changed }, () => setChanged("")); }}>
      <Field label="What was changed" value={changed} onValue={setChanged} className="grow basis-[260px]" />
      <Button type="submit" look="go" disabled={busy || changed.trim() === ""}>Measure again</Button>
    </form>
  );
}
