import { More } from "../../parts/More";
import { Link, useParams } from "@tanstack/react-router";
import { day } from "../../model/moment";
import type { UnitPage } from "../../model/types";
import { broughtFor, serialOf } from "../../model/words";
import { Bar } from "../../parts/Bar";
import { useUnit } from "../../data/fleet";
import { Fault } from "../../parts/Fault";
import { Finds } from "../../parts/Finds";
import { useTitle } from "../../parts/focus";
import { TrendDrawn } from "./Trend";

/** A unit over all its rebuilds: what was measured each time, what was fitted, what was found. */
export function UnitView() {
  const { id = "" } = useParams({ strict: false });
  const page = useUnit(id);
  const u = page.data?.unit;
  useTitle(u ? `${u.name}, ${serialOf(u)}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{u ? u.name : "Unit"}</h1>
        {u && <span className="text-note">{serialOf(u)}</span>}
      </Bar>
      <main tabIndex={-1} className="max-w-[1440px] mx-auto p-5 flex flex-col gap-5">
        <Fault error={page.error} />
        {page.data && <Drawn page={page.data} />}
      </main>
    </div>
  );
}

function Drawn({ page }: { page: UnitPage }) {
  const { unit: u, vehicle: v } = page;
  return (
    <>
      <p className="text-line">
        Kind: {u.kind}, spec sheet{" "}
        <Link to="/sheets/$id" params={{ id: u.sheet }}>
          {page.family}
        </Link>
        . Fitted in{" "}
        {v.customer ? (
          <Link to="/customers/$id" params={{ id: v.customer }}>
            {v.name}
            {v.owner && `, ${v.owner}`}
          </Link>
        ) : (
          v.name
        )}
        .
      </p>
      <section aria-labelledby="measured">
        <h2 id="measured" className="text-head mb-2">
          Measurements, rebuild by rebuild
        </h2>
        {page.trends.length === 0 && <p className="text-quiet">Nothing measured on it yet.</p>}
        <div className="grid grid-cols-3 max-[1100px]:grid-cols-2 max-[700px]:grid-cols-1 pt-px pl-px">
          {page.trends.map((t) => (
            <TrendDrawn key={`${t.step} ${t.what}`} trend={t} />
          ))}
        </div>
      </section>
      {page.found.length > 0 && (
        <section aria-labelledby="finds">
          <h2 id="finds" className="text-head mb-2">
            Found something else on {v.name}
          </h2>
          <div className="bg-sheet border border-ink px-4 py-1">
            <Finds list={page.found} />
          </div>
        </section>
      )}
      <section aria-labelledby="rebuilds">
        <h2 id="rebuilds" className="text-head mb-2">
          Rebuilds
        </h2>
        {page.rebuilds.length === 0 && <p className="text-quiet">Never rebuilt here.</p>}
        <ul className="bg-sheet border border-ink empty:hidden">
          {page.rebuilds.map((r) => (
            <Short key={r.id} rebuild={r} />
          ))}
        </ul>
        <More more={page.more} />
      </section>
    </>
  );
}

/** A rebuild in short: when, for whom, what was found and fitted. */
const Short = ({ rebuild: r }: { rebuild: UnitPage["rebuilds"][number] }) => (
  <li className="border-b border-hair last:border-b-0">
    <Link
      to={r.closed ? "/records/$id" : "/rebuilds/$id"}
      params={{ id: r.id }}
      className="grid grid-cols-[92px_120px_minmax(0,1fr)_minmax(0,1fr)] max-[820px]:grid-cols-[92px_minmax(0,1fr)] gap-x-5 px-4 py-2.5 text-ink no-underline hover:bg-tint/40"
    >
      <span className="font-mono text-head font-medium">{r.number}</span>
      <span>
        {day(r.opened_at)}
        <span className="block text-quiet text-small">{r.closed ? "handed over" : "in work"}</span>
      </span>
      <span>
        {broughtFor(r)}
        <span className="block text-quiet text-small">from {r.vehicle}</span>
      </span>
      <span>
        {r.cause ? `Found: ${r.cause}` : <span className="text-quiet">cause not found yet</span>}
        {r.fitted.length > 0 && (
          <span className="block text-quiet text-small">replaced or reworked: {r.fitted.join(", ")}</span>
        )}
      </span>
    </Link>
  </li>
);
