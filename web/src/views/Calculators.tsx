import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useCatalogue } from "../data/calc";
import { grouped, type Listed, wanted } from "../model/wanted";
import { begun } from "../model/words";
import { Bar } from "../parts/Bar";
import { Fault } from "../parts/Fault";
import { useTitle } from "../parts/focus";

/** Every calculator by the order of the work, found by typing what one wants. */
export function Calculators() {
  useTitle("Calculators");
  const go = useNavigate();
  const catalogue = useCatalogue();
  const [typed, setTyped] = useState("");
  const list = wanted(catalogue.data?.calculators ?? [], typed);
  const first = typed.trim() ? list[0] : undefined;
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">Calculators</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1100px] mx-auto p-5">
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (first) void go({ to: "/bench/$name", params: { name: first.name }, search: { ask: typed } });
          }}
        >
          <input
            autoFocus
            autoComplete="off"
            aria-label="What do you want to know?"
            placeholder="What do you want to know? Which drill for M14, turns of the nut, crow's foot"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            className="w-full min-h-12 px-3 text-line border border-ink bg-field"
          />
        </form>
        <Fault error={catalogue.error} />
        <p role="status" className="text-quiet mt-2">
          {typed.trim() && !first && "No calculator fits. Try other words."}
          {first && "Enter opens the first one."}
        </p>
        <div className="columns-2 max-[820px]:columns-1 gap-5 mt-3">
          {(typed.trim() ? [{ title: "What fits, best first", of: list }] : grouped(list)).map((g) => (
            <section key={g.title} aria-label={g.title} className="mb-5 break-inside-avoid">
              <h2 className="text-quiet text-note mb-1">{g.title}</h2>
              <ul className="bg-sheet border border-ink">
                {g.of.map((c) => (
                  <Entry key={c.name} of={c} ask={typed.trim()} />
                ))}
              </ul>
            </section>
          ))}
        </div>
      </main>
    </div>
  );
}

/** A calculator with its purpose; opened with the figures of what was typed, where something was. */
const Entry = ({ of: c, ask }: { of: Listed; ask: string }) => (
  <li className="border-b border-hair last:border-b-0">
    <Link
      to="/bench/$name"
      params={{ name: c.name }}
      search={ask ? { ask } : {}}
      className="block px-4 py-2 min-h-11 text-ink no-underline hover:bg-tint/40"
    >
      <b className="font-semibold">{begun(c.name.replaceAll("-", " "))}</b>
      <span className="block text-quiet text-note">{begun(c.purpose)}</span>
    </Link>
  </li>
);
