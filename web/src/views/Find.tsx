import { More } from "../parts/More";
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { wanted } from "../model/wanted";
import { findings, keyOf, type Offer } from "../model/offers";
import { Bar } from "../parts/Bar";
import { useCatalogue } from "../data/calc";
import { useFound } from "../data/rebuilds";
import { Fault } from "../parts/Fault";
import { useTitle } from "../parts/focus";
import { pickable, underKeys } from "../parts/look";

const anything =
  "Rebuild number, customer, registration, serial number, family, or words from a complaint or cause";

/** The calculators that answer what was typed. */
function useWanted(typed: string) {
  const all = useCatalogue().data?.calculators ?? [];
  return typed.trim() ? wanted(all, typed) : [];
}

/** One line over everything there is: what fits stands below while one types. */
export function Find() {
  useTitle("Find");
  const go = useNavigate();
  const [typed, setTyped] = useState("");
  const found = useFound(typed);
  const calculators = useWanted(typed);
  const groups = typed.trim() && found.data ? findings(found.data, calculators) : [];
  const open = ({ what, of: id }: Offer) => {
    if (what === "rebuild") void go({ to: "/rebuilds/$id", params: { id } });
    if (what === "unit") void go({ to: "/units/$id", params: { id } });
    if (what === "customer" || what === "vehicle") void go({ to: "/customers/$id", params: { id } });
    if (what === "calculator") void go({ to: "/bench/$name", params: { name: id }, search: { ask: typed } });
    if (what === "family") void go({ to: "/sheets/$id", params: { id } });
  };
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">Find</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1100px] mx-auto p-5">
        <Combobox<Offer | null> value={null} onChange={(o) => o && open(o)} immediate>
          <ComboboxInput
            autoFocus
            autoComplete="off"
            aria-label={anything}
            placeholder={anything}
            displayValue={() => typed}
            onChange={(e) => setTyped(e.target.value)}
            className="w-full min-h-12 px-3 text-line border border-ink bg-field"
          />
          <ComboboxOptions static modal={false} className="mt-4 empty:hidden focus:outline-none">
            {groups.map((g) => (
              <div key={g.title} role="group" aria-label={g.title} className="mb-5">
                <p aria-hidden="true" className="text-quiet text-note mb-1">
                  {g.title}
                </p>
                <div className="bg-sheet border border-ink">
                  {g.offers.map((o) => (
                    <Line key={keyOf(o)} offer={o} />
                  ))}
                </div>
              </div>
            ))}
          </ComboboxOptions>
        </Combobox>
        <More more={typed.trim() ? found.data?.more : false} look="Say one more word." />
        <Fault error={found.error} />
        <p role="status" className="text-quiet">
          {!typed.trim() && "Type a few words. It searches everywhere for all of them."}
          {typed.trim() &&
            found.data &&
            !found.isFetching &&
            groups.length === 0 &&
            "Nothing found with all these words."}
        </p>
      </main>
    </div>
  );
}

const Line = ({ offer: o }: { offer: Offer }) => (
  <ComboboxOption
    value={o}
    className={`grid grid-cols-[minmax(220px,auto)_minmax(0,1fr)_auto] max-[820px]:grid-cols-1 gap-x-4 items-baseline px-4 py-2 ${pickable} ${underKeys}`}
  >
    <b className="font-semibold text-line">{o.title}</b>
    <span className="text-quiet truncate">{o.more}</span>
    <span className="text-quiet text-note">{o.right}</span>
  </ComboboxOption>
);
