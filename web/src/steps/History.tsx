import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { moment } from "../model/moment";
import { bodyOf, type EntryView, type Step, type StepView } from "../api/types";

/** Every entry of the step, struck ones still readable. */
export function History({ view }: { view: StepView }) {
  if (view.entries.length === 0) return null;
  return (
    <Disclosure as="section" className="mt-5 border-t border-hair" aria-label="Entries of this step">
      <DisclosureButton className="min-h-11 text-quiet text-[14.5px] underline underline-offset-3">
        {view.entries.length === 1 ? "1 entry" : `${view.entries.length} entries`} at this step
      </DisclosureButton>
      <DisclosurePanel as="ol" className="text-[14.5px]">
        {view.entries.map((e) => (
          <li key={e.id} className="flex gap-3 border-b border-hair py-1">
            <span className={`grow ${e.superseded_by ? "line-through text-quiet" : ""}`}>{words(view.step, e)}</span>
            <span className="text-quiet">{e.by.name}, {moment(e.at)}</span>
          </li>
        ))}
      </DisclosurePanel>
    </Disclosure>
  );
}

/** The line, part or figure an entry belongs to, by its name; a bare number of a trial stays away. */
function named(step: Step, item: string | undefined) {
  const ask = item?.split(".")[1];
  const known = [...(step.items ?? []).map((i) => [i.id, i.text]), ...(step.parts ?? []).map((p) => [p.id, p.name]), ...(step.measure?.asks ?? []).map((a) => [a.id, a.text])];
  const name = known.find(([id]) => id === item || id === ask)?.[1];
  return name ?? (item && /^[\d.]+$/.test(item) ? "" : item);
}

function words(step: Step, e: EntryView) {
  const b = bodyOf(e);
  const parts = [e.act === "strike" ? "struck" : "", named(step, e.item), b.outcome, b.value && `${b.value.value} ${b.value.unit}`, b.name, b.faces, b.tray, b.note, b.reason];
  return parts.filter(Boolean).join(", ") || e.act;
}
