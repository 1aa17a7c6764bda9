import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { moment } from "../model/moment";
import type { StepView } from "../model/types";
import { several } from "../model/several";

/** Every entry of the step, struck ones still readable. */
export function History({ view }: { view: StepView }) {
  if (view.entries.length === 0) return null;
  return (
    <Disclosure as="section" className="mt-5 border-t border-hair" aria-label="Entries of this step">
      <DisclosureButton
        data-look="quiet"
        className="min-h-11 text-quiet text-small underline underline-offset-3"
      >
        {several(view.entries.length, "entry", "entries")} recorded at this step
      </DisclosureButton>
      <DisclosurePanel as="ol" className="text-small">
        {view.entries.map((e) => (
          <li key={e.id} className="flex gap-3 border-b border-hair py-1">
            <span className={`grow ${e.superseded_by ? "line-through text-quiet" : ""}`}>{e.says}</span>
            <span className="text-quiet">
              {e.by.name}, {moment(e.at)}
            </span>
          </li>
        ))}
      </DisclosurePanel>
    </Disclosure>
  );
}
