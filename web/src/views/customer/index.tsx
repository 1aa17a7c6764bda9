import { More } from "../../parts/More";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useContext, useState } from "react";
import { ApiError, client, unwrap } from "../../model/client";
import { day } from "../../model/moment";
import type { CustomerPage } from "../../model/types";
import { broughtFor, serialOf } from "../../model/words";
import { Bar } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { useCustomer, useSession } from "../../parts/data";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Finds } from "../../parts/Finds";
import { useTitle } from "../../parts/focus";
import { HelpContext } from "../help";

/** Somebody who brings units: how he is reached, what he brought, and what is kept of him. */
export function CustomerView() {
  const { id = "" } = useParams({ strict: false });
  const help = useContext(HelpContext);
  const page = useCustomer(id);
  const c = page.data;
  useTitle(c ? (c.erased_at ? "Name erased" : c.name) : "");
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">{c?.erased_at ? "Name erased" : (c?.name ?? "Customer")}</h1>
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1280px] mx-auto p-5 grid grid-cols-[minmax(0,1fr)_360px] max-[1000px]:grid-cols-1 gap-5 items-start"
      >
        <Fault error={page.error} />
        {c && <Brought page={c} />}
        {c && !c.erased_at && <Reached key={c.id} page={c} />}
        {c?.erased_at && (
          <p className="bg-sheet border border-ink p-5">
            Who this was has been erased on {day(c.erased_at)}. The records of his units stand and verify.
          </p>
        )}
      </main>
    </div>
  );
}

function Brought({ page }: { page: CustomerPage }) {
  return (
    <div className="flex flex-col gap-5 col-start-1">
      <section aria-labelledby="vehicles" className="bg-sheet border border-ink">
        <h2 id="vehicles" className="text-head px-5 py-3 border-b border-hair">
          Vehicles
        </h2>
        {page.vehicles.length === 0 && <p className="px-5 py-3 text-quiet">None is known.</p>}
        <ul>
          {page.vehicles.map((v) => (
            <li key={v.id} className="px-5 py-2.5 border-b border-hair last:border-b-0">
              <p className="text-line">
                <b className="font-semibold">{v.name}</b> <span className="font-mono">{v.registration}</span>
              </p>
              <ul className="flex flex-wrap gap-x-5">
                {v.units?.map((u) => (
                  <li key={u.id}>
                    <Link to="/units/$id" params={{ id: u.id }} className="min-h-11 flex items-center">
                      {u.name}, {serialOf(u)}
                    </Link>
                  </li>
                ))}
                <li className="ml-auto">
                  <Link
                    to="/sheets/$id"
                    params={{ id: `vehicle-${v.id}` }}
                    className="min-h-11 flex items-center"
                  >
                    Figures of this vehicle
                  </Link>
                </li>
              </ul>
              <Finds list={page.found.filter((f) => f.vehicle === v.id)} />
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="rebuilds" className="bg-sheet border border-ink">
        <h2 id="rebuilds" className="text-head px-5 py-3 border-b border-hair">
          Rebuilds
        </h2>
        {page.rebuilds.length === 0 && <p className="px-5 py-3 text-quiet">None yet.</p>}
        <ul>
          {page.rebuilds.map((r) => (
            <li key={r.id} className="border-b border-hair last:border-b-0">
              <Link
                to={r.place.closed ? "/records/$id" : "/rebuilds/$id"}
                params={{ id: r.id }}
                className="flex flex-wrap items-center gap-x-5 px-5 py-2.5 min-h-11 text-ink no-underline hover:bg-tint/40"
              >
                <span className="font-mono font-medium">{r.number}</span>
                <span>{day(r.opened_at)}</span>
                <span className="grow">
                  {r.unit.name}, {r.vehicle.name}: {broughtFor(r)}
                </span>
                <span className="text-quiet">
                  {r.place.closed ? "handed over" : `promised ${r.place.promised}`}
                </span>
              </Link>
            </li>
          ))}
        </ul>
        <More more={page.more} />
      </section>
    </div>
  );
}

function Reached({ page: c }: { page: CustomerPage }) {
  const role = useSession().data?.person.role;
  const cache = useQueryClient();
  const [form, setForm] = useState({
    name: c.name,
    phone: c.phone ?? "",
    mail: c.mail ?? "",
    address: c.address ?? "",
  });
  const save = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/v1/customers/{id}", { params: { path: { id: c.id } }, body: form })),
    onSuccess: (now) => cache.setQueryData(["customer", c.id], now),
  });
  const fault = (f: string) => (save.error instanceof ApiError ? save.error.field(f) : undefined);
  const lines = [
    ["name", "Name"],
    ["phone", "Telephone"],
    ["mail", "Mail"],
    ["address", "Address"],
  ] as const;
  const told = lines.some(([f]) => fault(f));
  const changed = lines.some(([f]) => form[f] !== (c[f] ?? ""));
  return (
    <aside className="flex flex-col gap-5">
      <form
        className="bg-sheet border border-ink p-5 flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (changed && !save.isPending) save.mutate();
        }}
      >
        <h2 className="text-head">How he is reached</h2>
        <fieldset disabled={role === "reader"} className="contents">
          {lines.map(([f, label]) => (
            <Field
              key={f}
              label={label}
              value={form[f]}
              onValue={(v) => setForm({ ...form, [f]: v })}
              error={fault(f)}
            />
          ))}
        </fieldset>
        {!told && <Fault error={save.error} />}
        {role !== "reader" && (
          <Button type="submit" hint="Enter" disabled={!changed || save.isPending}>
            Keep
          </Button>
        )}
      </form>
      <section aria-label="His data" className="bg-sheet border border-ink p-5 flex flex-col gap-3">
        <p>
          <a
            href={`/api/v1/customers/${c.id}`}
            download={`customer-${c.id}.json`}
            className="min-h-11 flex items-center"
          >
            Give him his data: JSON
          </a>
          <span className="text-quiet text-small">All that is kept of him, with vehicles and rebuilds.</span>
        </p>
        {role === "lead" && <Erase id={c.id} />}
      </section>
    </aside>
  );
}

/** Forgets a person on request; asked twice, since nobody can take it back. */
function Erase({ id }: { id: string }) {
  const cache = useQueryClient();
  const [sure, setSure] = useState(false);
  const erase = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/customers/{id}/erase", { params: { path: { id } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["customer", id] }),
    onError: () => setSure(false),
  });
  return (
    <div>
      <Button disabled={erase.isPending} onClick={() => (sure ? erase.mutate() : setSure(true))}>
        {sure ? "Erase for good: name, telephone, mail, address, registrations" : "Erase him"}
      </Button>
      {sure && (
        <p role="status" className="text-out mt-1">
          Nobody can take this back. The records of his units stay, without his name.
        </p>
      )}
      <Fault error={erase.error} />
    </div>
  );
}
