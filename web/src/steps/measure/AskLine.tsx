import { useState } from "react";
import { sayFigure, withUnit } from "../../model/quantity";
import type { AskView, Draft, Entry } from "../../model/types";
import { Button } from "../../parts/Button";
import { useUnits } from "../../parts/data";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";

type Props = {
  ask: AskView;
  step: string;
  entry: Entry | undefined;
  isCurrent: boolean;
  busy: boolean;
  onTyping: (d: Draft | undefined) => void;
  onTake: (d: Draft) => void;
};

/** One figure that is asked for, with what the sheet says of it. */
export function AskLine(p: Props) {
  const { ask, entry, isCurrent } = p;
  const units = useUnits().data;
  const says = ask.sheet === undefined || isZero(ask.sheet) ? "" : sayFigure(ask.sheet, units, ask.unit);
  return (
    <li className={`border-b border-hair last:border-b-0 border-l-[5px] px-3.5 py-2 flex flex-wrap gap-x-4 gap-y-1.5 items-center ${isCurrent ? "border-l-blue bg-tint/50" : "border-l-transparent"}`}>
      <span className="grow basis-[190px]">
        <span className="text-[17px]">{ask.text}</span>
        {says && <span className="block text-quiet text-[14px]">sheet: {says}</span>}
        {ask.optional && <span className="block text-quiet text-[14px]">if known</span>}
      </span>
      {ask.choices?.length ? <Choices {...p} /> : <Value key={entry?.id ?? "open"} {...p} />}
    </li>
  );
}

/** A sheet that says nought only says where the reading begins. */
const isZero = (figure: unknown) => figure === 0 || (typeof figure === "string" && Number.parseFloat(figure) === 0);

function Choices({ ask, entry, isCurrent, busy, onTake }: Props) {
  const said = entry?.body.outcome;
  return (
    <span className="flex flex-wrap" role="group" aria-label={ask.text}>
      {ask.choices?.map((c, i) => (
        <Choice key={c.id} text={c.text} chosen={said === c.id} hint={isCurrent ? String(i + 1) : undefined} disabled={busy}
          onPick={() => said !== c.id && onTake({ act: "reading", item: ask.id, outcome: c.id, ...(entry && { supersedes: entry.id, item: entry.item }) })} />
      ))}
    </span>
  );
}

function Choice({ text, chosen, hint, disabled, onPick }: { text: string; chosen: boolean; hint: string | undefined; disabled: boolean; onPick: () => void }) {
  useKey(hint ?? "", hint ? `answer: ${text}` : "", onPick, hint !== undefined && !disabled);
  return (
    <button type="button" aria-pressed={chosen} disabled={disabled} onClick={onPick} className={`min-h-11 px-3.5 border-[1.2px] border-ink -ml-px first:ml-0 flex items-center gap-2 ${chosen ? "bg-ink text-sheet font-semibold" : "bg-sheet"}`}>
      {text}
      {hint && !chosen && <kbd>{hint}</kbd>}
    </button>
  );
}

function Value({ ask, step, entry, isCurrent, busy, onTyping, onTake }: Props) {
  const [typed, setTyped] = useKept(`ask.${step}.${ask.id}`);
  const [again, setAgain] = useState(false);
  const unit = ask.unit ?? "mm";
  if (entry && !again) {
    const b = entry.body;
    const said = b.typed || `${b.value?.value} ${b.value?.unit}`;
    return (
      <button type="button" title="correct this" aria-label={`${ask.text}: ${said}, correct it`} onClick={() => setAgain(true)} className="min-h-11 px-2 font-mono text-[20px] font-medium">
        {said}
      </button>
    );
  }
  const draftOf = (text: string): Draft | undefined => text.trim() === "" ? undefined : { act: "reading", item: entry?.item ?? ask.id, value: withUnit(text, unit), ...(entry && { supersedes: entry.id }) };
  const take = () => { const d = draftOf(typed); if (d) { onTake(d); setTyped(""); setAgain(false); } };
  return (
    <form className="flex items-center gap-2" onSubmit={(e) => { e.preventDefault(); take(); }}>
      <span className="flex items-center border-[1.2px] border-ink bg-field focus-within:outline-[3px] outline-blue -outline-offset-[1px]">
        <input aria-label={ask.text} value={typed} autoFocus={isCurrent || again} inputMode="decimal" autoComplete="off"
          onChange={(e) => { setTyped(e.target.value); onTyping(draftOf(e.target.value)); }}
          className="w-28 min-h-11 px-3 bg-transparent font-mono text-[20px] focus-visible:outline-none" />
        <span className="pr-2.5 font-mono text-[14px] text-quiet">{/[a-zµ"°]/i.test(typed) ? "" : unit}</span>
      </span>
      <Button type="submit" look={isCurrent ? "plain" : "quiet"} disabled={busy || typed.trim() === ""}>Take</Button>
    </form>
  );
}
