import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useState } from "react";
import { usePreview, useUnits } from "../../api/hooks";
import { say as sayQ, withUnit } from "../../api/quantity";
import { type Draft, type FloatOut, type PackOffered, type PlanCopy, type Trial, type Unit, bodyOf } from "../../api/types";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Frame } from "../../parts/Frame";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { Verdict } from "../../parts/Verdict";
import { Accept } from "../../steps/Accept";
import type { StepProps } from "../../steps/props";
import { ReadingStrip, valuesBut } from "../../steps/ReadingStrip";
import { ReadWith } from "../../steps/ReadWith";
import { FloatDrawing } from "./FloatDrawing";
import { FloatMeaning, type Limits } from "./FloatMeaning";

/** The bench for a shaft's end float: read, see what it means, fit a pack, read again. */
export default function MeasureStep(p: StepProps) {
  const { view, say, busy, rebuild, plan } = p;
  const units = useUnits().data;
  const trials = view.measure?.trials ?? [];
  const trial = trials.at(-1);
  const instruments = view.measure?.instruments ?? [];
  const [typed, setTyped] = useKept(`${view.step.id}.reading/${trial?.number ?? 1}`);
  const [instrument, setInstrument] = useKept(`instrument.${view.step.id}`, lastInstrument(trial) ?? instruments[0]?.id ?? "");
  const [unit, setUnit] = useKept(`unit.${instrument}`, unitOf(instruments.find((i) => i.id === instrument), view.step.measure?.unit));
  const [correcting, setCorrecting] = useState("");
  const [touched, setTouched] = useState(-1);

  const draft: Draft | undefined = typed.trim()
    ? { act: "reading", value: withUnit(typed, unit), instrument, ...(correcting && { supersedes: correcting }) }
    : undefined;
  const preview = usePreview(rebuild, view.step.id, view.status === "locked" ? undefined : draft);
  const shown = ((draft && preview.data?.result) ?? trial?.result) as FloatOut | undefined;
  const isPreview = draft !== undefined && preview.data !== undefined;
  const packs = shown && shown.verdict !== "in" ? shown.packs : [];
  // Out of limits, the best pack is proposed; undecided, only what was asked for.
  const picked = shown?.verdict === "out" ? Math.max(0, touched) : touched;
  const pack = packs[Math.min(picked, packs.length - 1)];
  const fits = shown && !isPreview && pack && (trial?.readings.length ?? 0) >= (view.step.measure?.min_readings ?? 1) && shown.verdict !== "in";

  const limits = view.measure?.limits as Limits | undefined;
  const others = valuesBut(trial, correcting);
  const asked = useAsked(typed, unit, others.length > 0 ? others : [limits?.min, limits?.max].filter((q) => q !== undefined));
  const take = () => draft && asked.may() && say(draft, () => { setTyped(""); setCorrecting(""); });
  const fit = () => pack && say({ act: "fit", pack: pack.pieces.map((x) => ({ thickness: x.thickness, count: x.count })) }, () => setTouched(-1));
  useKey("U", "another unit", () => setUnit(unit === "mm" ? "thou" : unit === "thou" ? "in" : "mm"));
  useKey("F", "fit this pack", fit, Boolean(fits) && !busy);

  return (
    <>
      <Frame label="Output shaft in its case" block={blockOf(view, plan, shown, instruments.find((i) => i.id === instrument)?.name)}
        side={<Packs packs={packs} picked={picked} onPick={setTouched} units={units} trialSum={trial?.sum} />}>
        <FloatDrawing out={shown} trial={trial} pack={shown?.verdict === "in" ? undefined : pack} units={units} />
      </Frame>
      <ReadingStrip trials={trials} entries={view.entries} typed={typed} onTyped={setTyped} unit={unit} onTake={take} correcting={correcting} onCorrect={(id) => { setCorrecting(id); setTyped(""); }}
        onStrike={(id) => say({ act: "strike", supersedes: id }, () => setCorrecting(""))} invalid={preview.error !== null && draft !== undefined} />
      <div className="flex flex-wrap gap-2 mt-2.5 items-center text-[14.5px] text-quiet">
        <ReadWith instruments={instruments} value={instrument} onPick={setInstrument} />
        <Button look="quiet" hint="U" title="another unit" onClick={() => setUnit(unit === "mm" ? "thou" : unit === "thou" ? "in" : "mm")}>{unit}</Button>
        <span className="ml-auto"><kbd>Enter</kbd> take</span>
        <span><kbd>←</kbd> correct the last</span>
      </div>
      <Asked question={asked.question} />
      <LeftBehind place={`${view.step.id}.reading`} name={(at) => (at === String(trial?.number ?? 1) ? undefined : `trial ${at}`)} />
      {draft && <Fault error={preview.error} />}
      {trial && shown && shown.verdict !== "in" && !isPreview && (trial.readings.length >= (view.step.measure?.min_readings ?? 1)) && !trial.accepted && <Accept {...p} />}
      {shown && (
        <MarginSlot>
          <FloatMeaning out={shown} units={units} preview={isPreview} trial={trial} limits={limits} />
          {fits && (
            <div className="border-t-[1.5px] border-ink pt-3">
              <h3 className="text-[18px]">Next</h3>
              <p>{nextWords(shown, pack, units, picked)}</p>
              <Button look="go" hint="F" className="w-full mt-2.5" disabled={busy} onClick={fit}>Fit this pack</Button>
            </div>
          )}
          {shown.verdict !== "in" && !fits && <p className="border-t-[1.5px] border-ink pt-3"><b>Next.</b> {shown.next}</p>}
          <Sources out={shown} />
        </MarginSlot>
      )}
    </>
  );
}

function lastInstrument(trial: Trial | undefined) {
  const last = trial?.readings.at(-1);
  return last && bodyOf(last).instrument;
}

function unitOf(instrument: { resolution?: { unit: string } } | undefined, usual: string | undefined) {
  return instrument?.resolution?.unit ?? usual ?? "mm";
}

function blockOf(view: StepProps["view"], plan: PlanCopy, out: FloatOut | undefined, gauge: string | undefined): [string, string][] {
  return [
    ["sheet", `${plan.sheet.id}, version ${plan.sheet.version}`],
    ["gauge", gauge ?? "none chosen"],
    ["method", (out as { method?: string } | undefined)?.method ?? view.step.measure?.calc ?? ""],
  ];
}

function nextWords(out: FloatOut, pack: PackOffered, units: Unit[] | undefined, picked: number) {
  if (picked === 0 && out.verdict === "out" && out.pack_verdict !== "out") return out.next;
  return `This pack adds up to ${sayQ(pack.sum, units)}; expect a float of ${sayQ(pack.float, units)}. ${pack.verdict === "in" ? "" : "That is not surely within the sheet."}`;
}

/** Packs of the drawer, best first, with the float each would give. */
function Packs({ packs, picked, onPick, units, trialSum }: { packs: PackOffered[]; picked: number; onPick: (i: number) => void; units: Unit[] | undefined; trialSum: { value: number; unit: string } | undefined }) {
  if (packs.length === 0) return <p className="p-3 text-quiet text-[14.5px]">Packs from the drawer stand here when the float is out.{trialSum && ` In place now: ${sayQ(trialSum, units)}.`}</p>;
  return (
    <div role="radiogroup" aria-label="Packs from the drawer">
      {packs.slice(0, 4).map((pack, i) => (
        <button key={pack.pieces.map((x) => `${x.count}x${x.thickness.value}${x.thickness.unit}`).join() || "none"} type="button" role="radio" aria-checked={i === picked} onClick={() => onPick(i)}
          className={`block w-full min-h-[58px] px-3 py-1.5 border-b border-hair text-[14.5px] ${i === picked ? "bg-tint border-l-[5px] border-l-blue" : ""}`}>
          <b className="font-semibold text-[15.5px]">{pack.pieces.length === 0 ? "No shim" : pack.pieces.map((x) => `${x.count > 1 ? `${x.count} × ` : ""}${sayQ(x.thickness, units)}`).join(" + ")}</b>
          <span className="flex items-center justify-between text-quiet">leaves {sayQ(pack.float, units)} <Verdict verdict={pack.verdict as "in"} small /></span>
        </button>
      ))}
    </div>
  );
}

function Sources({ out }: { out: FloatOut }) {
  const full = out as FloatOut & { method?: string; source?: string[] };
  return (
    <Disclosure as="div" className="text-[14.5px] text-quiet">
      <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">Formula, uncertainty, source</DisclosureButton>
      <DisclosurePanel>
        <p>Pack = pack in place + float − target. The target is the middle of the sheet's limits.</p>
        <p>n = {out.float.n}, s = {out.float.s?.value.toPrecision(2) ?? "–"} {out.float.s?.unit}, u from spread {out.float.u_a.value.toPrecision(2)}, from the scale {out.float.u_res.value.toPrecision(2)}, from the gauge {out.float.u_mpe.value.toPrecision(2)}; times {out.float.coverage.toFixed(2)} for {Math.round(100 * out.float.confidence)} %.</p>
        <p>{full.method}: {full.source?.join("; ")}</p>
      </DisclosurePanel>
    </Disclosure>
  );
}
