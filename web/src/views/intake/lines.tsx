import { useState } from "react";
import { customerOffers, type Offer, unitOffers, vehicleOffers } from "../../model/offers";
import { day } from "../../model/moment";
import type { CustomerPage, Vehicle } from "../../model/types";
import { serialOf } from "../../model/words";
import { useFinds } from "../../data/fleet";
import { useFound } from "../../data/rebuilds";
import { useRoutes } from "../../data/sheets";
import { Fault } from "../../parts/Fault";
import { Finds } from "../../parts/Finds";

import type { useJob } from "./job";
import { NewCustomer, NewUnit, NewVehicle } from "./New";
import { Line, Pick, Picked } from "./Pick";
import { several } from "../../model/several";

type Job = ReturnType<typeof useJob>;

/** A line being looked up: what was typed, what is new, and what went wrong. */
function useLooking() {
  const [typed, setTyped] = useState("");
  const [fresh, setFresh] = useState<Offer | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const asked = useFound(typed);
  const found = typed.trim() ? asked.data : undefined;
  return {
    typed,
    setTyped,
    fresh,
    setFresh,
    error,
    found,
    settled: !typed.trim() || asked.isError || (asked.isSuccess && !asked.isPlaceholderData),
    leave: () => setFresh(null),
    async doing(work: Promise<unknown>) {
      try {
        setError(null);
        await work;
        setFresh(null);
        setTyped("");
      } catch (e) {
        setError(e instanceof Error ? e : new Error(String(e)));
      }
    },
  };
}

const jobsBefore = (c: CustomerPage) => {
  const last = c.rebuilds[0];
  if (!last) return "new here";
  return `${several(c.rebuilds.length, "rebuild")} before, last on ${day(last.opened_at)}`;
};

export function CustomerLine({ job }: { job: Job }) {
  const look = useLooking();
  const c = job.customer;
  const pick = (o: Offer) => {
    if (o.what === "new") return look.setFresh(o);
    if (o.what === "unit") return void look.doing(job.fromUnit(o.of));
    const v = look.found?.vehicles.find((x) => x.id === o.of);
    if (o.what === "vehicle" && v) return void look.doing(job.fromVehicle(v));
    job.say(o.of, "", "");
  };
  return (
    <Line title="Customer">
      {c && (
        <Picked name="customer" onOther={() => job.say("", "", "")}>
          <b className="font-semibold">{c.name}</b>
          {c.phone && <span>{c.phone}</span>}
          <span className="text-quiet text-note">{jobsBefore(c)}</span>
        </Picked>
      )}
      {!c && look.fresh && (
        <NewCustomer
          typed={look.typed.trim()}
          onLeave={look.leave}
          onAdded={(added) => job.say(added.id, "", "")}
        />
      )}
      {!c && !look.fresh && (
        <Pick
          label="Customer"
          placeholder="Name, telephone, registration or serial number"
          typed={look.typed}
          onType={look.setTyped}
          offers={customerOffers(look)}
          onPick={pick}
          autoFocus
        />
      )}
      <Fault error={look.error} />
    </Line>
  );
}

export function VehicleLine({ job }: { job: Job }) {
  const look = useLooking();
  const { customer: c, vehicle: v } = job;
  if (!c) return <Waits title="Vehicle" />;
  const pick = (o: Offer) => {
    if (o.what === "new") return look.setFresh(o);
    const known = [...c.vehicles, ...(look.found?.vehicles ?? [])].find((x) => x.id === o.of);
    if (known) void look.doing(job.hasVehicle(known, c));
  };
  return (
    <Line title="Vehicle">
      {v && (
        <Picked name="vehicle" onOther={() => job.say(c.id, "", "")}>
          <b className="font-semibold">{v.name}</b>
          {v.registration && <span className="font-mono text-note">{v.registration}</span>}
        </Picked>
      )}
      {v && <StillOpen vehicle={v.id} />}
      {!v && look.fresh && (
        <NewVehicle
          typed={look.typed.trim()}
          customer={c.id}
          onLeave={look.leave}
          onAdded={(added) => void look.doing(job.hasVehicle(added, c))}
        />
      )}
      {!v && !look.fresh && (
        <Pick
          label="Vehicle"
          placeholder="Name or registration"
          typed={look.typed}
          onType={look.setTyped}
          offers={vehicleOffers(c.vehicles, look)}
          onPick={pick}
          autoFocus
        />
      )}
      <Fault error={look.error} />
    </Line>
  );
}

/** What was found on it before and is neither done nor refused: said while the customer is there. */
function StillOpen({ vehicle }: { vehicle: string }) {
  const open = useFinds(vehicle).data?.filter((f) => f.open) ?? [];
  if (open.length === 0) return null;
  return (
    <section role="status" aria-label="Still open on this vehicle" className="mt-1">
      <h4 className="text-note text-undecided font-semibold">
        Found before and still open: tell the customer
      </h4>
      <Finds list={open} />
    </section>
  );
}

export function UnitLine({ job }: { job: Job }) {
  const { customer, vehicle } = job;
  useRoutes(); // there when a new unit asks for them
  if (!customer || !vehicle) return <Waits title="Unit" />;
  return <UnitOf key={vehicle.id} job={job} vehicle={vehicle} customer={customer} />;
}

function UnitOf({ job, vehicle: v, customer: c }: { job: Job; vehicle: Vehicle; customer: CustomerPage }) {
  const look = useLooking();
  const u = job.unit;
  const own = v.units ?? [];
  const pick = (o: Offer) => {
    if (o.what === "new" || o.what === "family") return look.setFresh(o);
    const unit = [...own, ...(look.found?.units ?? [])].find((x) => x.id === o.of);
    if (unit) void look.doing(job.hasUnit(unit, v, !own.some((x) => x.id === unit.id)));
  };
  return (
    <Line title="Unit">
      {u && (
        <Picked name="unit" onOther={() => job.say(c.id, v.id, "")}>
          <b className="font-semibold">{u.name}</b>
          <span className="text-quiet text-note">
            {u.kind}, {serialOf(u)}
          </span>
        </Picked>
      )}
      {!u && look.fresh && (
        <NewUnit
          typed={look.fresh.what === "family" ? look.fresh.title : look.typed.trim()}
          sheet={look.fresh.what === "family" ? look.fresh.of : undefined}
          vehicle={v.id}
          onLeave={look.leave}
          onAdded={(added) => void look.doing(job.hasUnit(added, v, false))}
        />
      )}
      {!u && !look.fresh && (
        <Pick
          label="Unit"
          placeholder="Serial number or family"
          typed={look.typed}
          onType={look.setTyped}
          offers={unitOffers(own, look, v.id)}
          onPick={pick}
        />
      )}
      <Fault error={look.error} />
    </Line>
  );
}

/** A line whose turn has not come. */
const Waits = ({ title }: { title: string }) => (
  <Line title={title}>
    <p className="text-quiet text-note min-h-11 flex items-center">Fill in the line above first.</p>
  </Line>
);
