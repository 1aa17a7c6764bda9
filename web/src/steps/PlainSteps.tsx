import { useEffect, useState } from "react";
import { useUnits } from "../api/hooks";
import { say as sayQuantity, withUnit } from "../api/quantity";
import { bodyOf, type Entry, type Quantity, type Verdict as V } from "../api/types";
import { usePreview } from "../api/hooks";
import { Asked, useAsked } from "../parts/Asked";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useKept } from "../parts/kept";
import { useKey } from "../parts/keys";
import { MarginSlot } from "../parts/MarginSlot";
import { TakePhoto } from "../parts/TakePhoto";
import { NumberLine } from "../parts/NumberLine";
import { Verdict } from "../parts/Verdict";
import { Cautions } from "./Cautions";
import type { StepProps } from "./props";

const live = (p: StepProps, act: string) => p.view.entries.find((e) => e.act === act && !e.superseded_by);

type RowProps = {
  name: string;
  id: string;
  chosen: boolean;
  onPick: () => void;
  title: string;
  text?: string | undefined;
  warn?: string | undefined;
};

/** A row to choose, as a radio with its reasons. */
function Row({ name, id, chosen, onPick, title, text, warn }: RowProps) {
  const edge = chosen ? "bg-tint border-l-blue" : "border-l-transparent";
  return (
    <label className={`flex gap-3 items-start min-h-11 px-4 py-2.5 border-b border-hair last:border-b-0 cursor-pointer border-l-[5px] ${edge}`}>
      <input type="radio" name={name} value={id} checked={chosen} onChange={onPick} className="mt-1.5 size-4 accent-blue" />
      <span>
        <span className="font-semibold text-[17px]">{title}</span>
        {text && <span className="block text-quiet text-[15.5px]">{text}</span>}
        {warn && <span className="block text-out text-[15.5px]"><b>Not in here.</b> {warn}</span>}
      </span>
    </label>
  );
}

export function CautionStep({ view, say, busy }: StepProps) {
  return <Cautions cautions={view.cautions} say={say} busy={busy} />;
}

export function DecideStep(p: StepProps) {
  const { view, say, busy } = p;
  const old = live(p, "decision");
  const said = old && bodyOf(old);
  const [choice, setChoice] = useKept(`choice.${view.step.id}`);
  const [reason, setReason] = useKept(`reason.${view.step.id}`);
  const usual = view.step.choices?.find((c) => c.default)?.id ?? "";
  const picked = choice || said?.outcome || usual;
  const decide = () =>
    say({ act: "decision", outcome: picked, ...(reason.trim() && { reason }), ...(old && { supersedes: old.id }) }, () => {
      setChoice("");
      setReason("");
    });
  const unchanged = old !== undefined && choice === "" && reason === "";
  useKey("F", "decide", decide, picked !== "" && !busy);
  return (
    <div className="border-[1.2px] border-ink mt-3.5">
      <div role="radiogroup" aria-label={view.step.title}>
        {view.step.choices?.map((c) => (
          <Row
            key={c.id}
            name={view.step.id}
            id={c.id}
            chosen={picked === c.id}
            onPick={() => setChoice(c.id)}
            title={`${c.text}${c.default ? ", our way" : ""}`}
            text={c.holds ? "The rebuild waits here until this is decided anew." : c.why}
          />
        ))}
      </div>
      <div className="p-4 border-t-[1.2px] border-ink flex flex-wrap gap-3 items-end">
        <Field label="Reason" value={reason} onValue={setReason} className="grow basis-[260px]" />
        <Button look="go" hint="F" disabled={busy || picked === "" || unchanged} onClick={decide}>
          {old ? "Decide anew" : view.step.role === "lead" ? "Sign" : "Decide"}
        </Button>
      </div>
      {old && (
        <p className="px-4 pb-3 text-quiet">
          Decided by {old.by.name}: {view.step.choices?.find((c) => c.id === said?.outcome)?.text}{said?.reason && `, ${said.reason}`}
        </p>
      )}
      {view.step.handover && <ol className="px-8 pb-4 list-decimal">{view.step.handover.map((h) => <li key={h}>{h}</li>)}</ol>}
    </div>
  );
}

type FillResult = { litre: Quantity; us_quart: Quantity; imp_pint: Quantity; min: Quantity; max: Quantity; verdict: V; fluid: string };

export function FillStep(p: StepProps) {
  const { view, say, busy, rebuild } = p;
  const units = useUnits().data;
  const old = live(p, "filled");
  const [fluid, setFluid] = useKept(`fluid.${view.step.id}`, (old && bodyOf(old).outcome) ?? view.chosen ?? "");
  const [typed, setTyped] = useKept(`fill.${view.step.id}`);
  const shopUnits = ["L", "US qt", "imp pt"];
  const [unit, setUnit] = useKept("unit.volume", view.step.fill?.unit ?? "L");
  const draft = fluid && typed.trim() ? { act: "filled", outcome: fluid, value: withUnit(typed, unit), ...(old && { supersedes: old.id }) } : undefined;
  const preview = usePreview(rebuild, view.step.id, draft);
  const shown = ((draft ? preview.data : old) as Entry | undefined)?.result as FillResult | undefined;
  const sheet = view.fill ? `${sayQuantity(view.fill.min, units)} to ${sayQuantity(view.fill.max, units)}` : "";
  const asked = useAsked(typed, unit, view.fill ? [view.fill.min, view.fill.max] : []);
  const take = () => draft && asked.may() && say(draft, () => setTyped(""));
  return (
    <form className="border-[1.2px] border-ink mt-3.5" onSubmit={(e) => { e.preventDefault(); take(); }}>
      <div role="radiogroup" aria-label="Fluid">
        {view.step.fill?.fluids?.filter((f) => !view.chosen || f.id === view.chosen).map((f) => (
          <Row key={f.id} name="fluid" id={f.id} chosen={fluid === f.id} onPick={() => setFluid(f.id)} title={f.class} text={f.why} warn={f.forbids} />
        ))}
      </div>
      <div className="p-4 border-t-[1.2px] border-ink flex flex-wrap gap-2 items-end">
        <Field label={`Quantity, sheet says ${sheet}`} numeric value={typed} onValue={setTyped} inputMode="decimal" className="basis-[240px]" />
        <Button look="quiet" title="another unit" onClick={() => setUnit(shopUnits[(shopUnits.indexOf(unit) + 1) % 3] ?? "L")}>{unit}</Button>
        <Button look="go" type="submit" hint="Enter" disabled={busy || !draft}>Put it down</Button>
      </div>
      {draft && <div className="px-4"><Asked question={asked.question} /><Fault error={preview.error} /></div>}
      {shown && (
        <MarginSlot>
          <div>
            <p className="text-quiet text-[14.5px]">{draft ? "That would be" : "Written down"}</p>
            <p className="font-mono font-medium text-[44px] leading-none">{shown.litre.value.toFixed(2)} <span className="text-[19px]">L</span></p>
            <p className="text-quiet mt-1.5">{shown.us_quart.value.toFixed(2)} US qt, {shown.imp_pint.value.toFixed(2)} imp pt</p>
            <p className="mt-1">{shown.fluid}</p>
            <p className="mt-2"><Verdict verdict={shown.verdict} /></p>
          </div>
          <NumberLine value={shown.litre.value} uncertainty={0} lower={shown.min.value} upper={shown.max.value} unit="L" verdict={shown.verdict} decimals={2} />
        </MarginSlot>
      )}
    </form>
  );
}

export function WaitStep(p: StepProps) {
  const { view, say, busy } = p;
  const usual = view.step.schools?.find((s) => s.default)?.id ?? "";
  const [picked, setPicked] = useKept(`school.${view.step.id}`, usual);
  const [reason, setReason] = useKept(`sooner.${view.step.id}`);
  const left = useCountdown(view.wait?.now, view.wait?.due);
  const started = view.wait?.started !== undefined;
  const school = view.wait?.school || picked;
  const ended = live(p, "end");
  const whole = started ? Math.max(1, (Date.parse(view.wait?.due ?? "") - Date.parse(view.wait?.started ?? "")) / 1000) : 1;
  const turn = () => say(started ? { act: "end" } : { act: "start", outcome: school });
  useKey("F", started ? "the clock is over" : "start the clock", turn, !busy && !ended && (!started || left <= 0));
  return (
    <div className="border-[1.2px] border-ink mt-3.5">
      <p className="px-4 py-2 border-b border-hair text-quiet">Shops do this in different ways. Ours is marked; choose another if the sealant or the maker asks for it.</p>
      <div role="radiogroup" aria-label="School" inert={started}>
        {view.step.schools?.map((s) => (
          <Row
            key={s.id}
            name="school"
            id={s.id}
            chosen={school === s.id}
            onPick={() => setPicked(s.id)}
            title={`${s.title}${s.default ? ", our way" : ""}: ${s.wait.value} ${s.wait.unit}`}
            text={s.why}
          />
        ))}
      </div>
      <div className="p-4 border-t-[1.2px] border-ink flex flex-wrap gap-5 items-center">
        <Clock share={started ? Math.min(1, 1 - left / whole) : 0} text={started ? clockText(left) : "–:––"} />
        {!started && <Button look="go" hint="F" disabled={busy} onClick={turn}>Cover touches: start the clock</Button>}
        {started && !ended && left <= 0 && <Button look="go" hint="F" disabled={busy} onClick={turn}>Time is over: go on</Button>}
        {started && !ended && left > 0 && (
          <form className="flex gap-2 items-end flex-wrap" onSubmit={(e) => { e.preventDefault(); say({ act: "end", reason }, () => setReason("")); }}>
            <Field label="To go on sooner, say why" value={reason} onValue={setReason} />
            <Button type="submit" disabled={busy || reason.trim() === ""}>Go on sooner</Button>
          </form>
        )}
        {ended && <p className="text-[17px]">Over, noted by {ended.by.name}.</p>}
      </div>
    </div>
  );
}

/** Seconds left by the server's clock, counted on by the browser's. */
function useCountdown(now: string | undefined, due: string | null | undefined) {
  const [since, setSince] = useState({ now: "", passed: 0 });
  useEffect(() => {
    const began = Date.now();
    const timer = setInterval(() => setSince({ now: now ?? "", passed: (Date.now() - began) / 1000 }), 500);
    return () => clearInterval(timer);
  }, [now]);
  if (!now || !due) return 0;
  return (Date.parse(due) - Date.parse(now)) / 1000 - (since.now === now ? since.passed : 0);
}

function clockText(seconds: number) {
  const s = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

function Clock({ share, text }: { share: number; text: string }) {
  const r = 52;
  const a = 2 * Math.PI * Math.min(0.9999, Math.max(0, share));
  return (
    <svg width="130" height="130" viewBox="-65 -65 130 130" role="img" aria-label={`time left ${text}`}>
      <circle r={r} className="fill-none stroke-hair" strokeWidth="1.2" />
      {Array.from({ length: 12 }, (_, i) => (
        <line key={i} y1={-r} y2={-r + 8} transform={`rotate(${i * 30})`} className="stroke-ink" strokeWidth="1.2" />
      ))}
      {share > 0 && <path d={`M0 ${-r}A${r} ${r} 0 ${a > Math.PI ? 1 : 0} 1 ${r * Math.sin(a)} ${-r * Math.cos(a)}`} className="fill-none stroke-blue" strokeWidth="6" />}
      <text textAnchor="middle" y="8" fontSize="24" style={{ fontFamily: "var(--font-mono)" }}>{text}</text>
    </svg>
  );
}

export function PhotoStep(p: StepProps) {
  const { rebuild, view, say, busy } = p;
  const taken = live(p, "photo");
  const [reason, setReason] = useKept(`nophoto.${view.step.id}`);
  const photo = taken && bodyOf(taken).photo;
  if (taken) {
    return (
      <div className="border-[1.2px] border-ink mt-3.5 p-4">
        {photo ? <img src={`/api/v1/photos/${photo}`} alt={view.step.title} className="max-h-[420px] border border-hair" /> : <p>No picture: {bodyOf(taken).reason}</p>}
      </div>
    );
  }
  return (
    <div className="border-[1.2px] border-ink mt-3.5 p-4 flex flex-col gap-4">
      <TakePhoto rebuild={rebuild} label="Take or choose a picture" onTaken={(id) => say({ act: "photo", photo: id })} />
      <form className="flex gap-2 items-end flex-wrap" onSubmit={(e) => { e.preventDefault(); say({ act: "photo", reason }, () => setReason("")); }}>
        <Field label="Or no picture, because" value={reason} onValue={setReason} className="grow" />
        <Button type="submit" disabled={busy || reason.trim() === ""}>Go on without</Button>
      </form>
    </div>
  );
}
