import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { useKeepRoute, useRoute } from "../../data/sheets";
import { minutesOf, same } from "./own";
import type { OwnRoute, RoutePage } from "../../model/types";
import { Bar } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { useSession } from "../../data/session";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useTitle } from "../../parts/focus";
import { Versions } from "../../parts/Versions";
import { Station } from "./Station";

/** A route as the shop goes it, changed step by step and kept as a version. */
export function RouteView() {
  const { id = "" } = useParams({ strict: false });
  const page = useRoute(id);
  const r = page.data;
  useTitle(r ? `Route ${r.title}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{r?.title ?? "Route"}</h1>
        {r && (
          <span className="text-quiet">{r.version === 0 ? "standard" : `your version ${r.version}`}</span>
        )}
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1440px] mx-auto p-5 grid grid-cols-[minmax(0,1fr)_360px] max-[1000px]:grid-cols-1 gap-5 items-start"
      >
        <Fault error={page.error} />
        {r && <Going key={r.version} page={r} />}
      </main>
    </div>
  );
}

function Going({ page }: { page: RoutePage }) {
  const leads = useSession().data?.person.role === "lead";
  const [own, setOwn] = useState<OwnRoute>(page.own);
  return (
    <>
      <div className="flex flex-col gap-5">
        {page.unfit.length > 0 && (
          <div role="alert" className="bg-sheet border border-out border-l-6 px-4 py-3">
            <p className="text-line font-semibold">
              The book has changed and your version no longer fits. No rebuild can start on this route until
              you fix it.
            </p>
            <ul>
              {page.unfit.map((f) => (
                <li key={f}>{f}</li>
              ))}
            </ul>
          </div>
        )}
        {page.stations.map((s) => (
          <Station
            key={s.id}
            page={page}
            station={s.id}
            title={s.title}
            own={own}
            onOwn={leads ? setOwn : undefined}
          />
        ))}
      </div>
      <aside className="flex flex-col gap-5 sticky top-5 max-[1000px]:static">
        {leads && <Keep page={page} own={own} onOwn={setOwn} />}
        <Versions history={page.history} more={page.more} none="Standard; not changed here." />
        <p className="text-quiet text-note">
          A rebuild keeps the route it started on. Deeper changes are made in the shop's own book files.
        </p>
      </aside>
    </>
  );
}

function Keep({ page, own, onOwn }: { page: RoutePage; own: OwnRoute; onOwn: (own: OwnRoute) => void }) {
  const [why, setWhy] = useState("");
  const keep = useKeepRoute(page);
  const changed = !same(own, page.own);
  const minutes = minutesOf(own);
  return (
    <form
      aria-label="Save the route"
      className="bg-sheet border border-ink p-5 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (changed && !keep.isPending) keep.mutate({ own, why });
      }}
    >
      <label className="flex gap-3 items-center min-h-11">
        <input
          type="checkbox"
          className="size-5"
          checked={!own.unused}
          onChange={(e) => onOwn({ ...own, unused: !e.target.checked })}
        />
        Offered when a unit is taken in
      </label>
      {minutes > 0 && (
        <p className="text-quiet">
          Planned time so far:{" "}
          <b className="font-mono font-medium">
            {Math.floor(minutes / 60)} h {minutes % 60} min
          </b>
          .
        </p>
      )}
      <Field label="Why" value={why} onValue={setWhy} />
      <div className="flex flex-wrap gap-2">
        <Button look="go" type="submit" hint="Enter" disabled={!changed || keep.isPending}>
          Save as version {page.version + 1}
        </Button>
        {changed && <Button onClick={() => onOwn(page.own)}>Undo changes</Button>}
      </div>
      <Fault error={keep.error} />
    </form>
  );
}
