import { Link } from "@tanstack/react-router";
import { day } from "../../model/moment";
import type { CustomerPage } from "../../model/types";
import { broughtFor, serialOf } from "../../model/words";
import { Finds } from "../../parts/Finds";
import { Listed } from "../../parts/Listed";
import { More } from "../../parts/More";

/** What somebody brought: his vehicles with their units, and their rebuilds. */
export function Brought({ page }: { page: CustomerPage }) {
  return (
    <div className="flex flex-col gap-5 col-start-1">
      <Listed
        title="Vehicles"
        list={page.vehicles}
        error={null}
        keyOf={(v) => v.id}
        none="No vehicles yet."
        row={(v) => <Vehicle v={v} found={page.found} />}
      />
      <Listed
        title="Rebuilds"
        list={page.rebuilds}
        error={null}
        keyOf={(r) => r.id}
        none="No rebuilds yet."
        row={(r) => (
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
        )}
      >
        <More more={page.more} />
      </Listed>
    </div>
  );
}

type VehicleProps = { v: CustomerPage["vehicles"][number]; found: CustomerPage["found"] };

const Vehicle = ({ v, found }: VehicleProps) => (
  <div className="px-5 py-2.5">
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
        <Link to="/sheets/$id" params={{ id: `vehicle-${v.id}` }} className="min-h-11 flex items-center">
          Figures of this vehicle
        </Link>
      </li>
    </ul>
    <Finds list={found.filter((f) => f.vehicle === v.id)} />
  </div>
);
