import { type ReactNode, useEffect, useState } from "react";
import { ApiError } from "../../model/problem";
import { useAddCustomer, useAddUnit, useAddVehicle } from "../../data/fleet";
import type { Customer, Assembly, Vehicle } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { Choice, Choices } from "../../parts/Choices";
import { useRoutes } from "../../data/sheets";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Gears } from "./Gears";

type Adding<T> = { onAdded: (x: T) => void; onLeave: () => void };

/** The frame of something new: its fields, its fault, the two ways out. */
function Fresh({
  label,
  error,
  told,
  busy,
  onAdd,
  onLeave,
  children,
}: {
  label: string;
  error: Error | null;
  told: boolean;
  busy: boolean;
  onAdd: () => void;
  onLeave: () => void;
  children: ReactNode;
}) {
  useEffect(() => {
    const leave = (e: KeyboardEvent) => e.key === "Escape" && onLeave();
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [onLeave]);
  return (
    <form
      aria-label={label}
      className="border border-ink border-l-5 border-l-blue bg-tint/40 p-3.5 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!busy) onAdd();
      }}
    >
      {children}
      {!told && <Fault error={error} />}
      <div className="flex gap-2">
        <Button look="go" type="submit" hint="Enter" disabled={busy}>
          {label}
        </Button>
        <Button hint="Esc" onClick={onLeave}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

const faultsOf = (error: Error | null) => (field: string) =>
  error instanceof ApiError ? error.field(field) : undefined;

/** Somebody who was never here; who is known by that name and number is taken as he is. */
export function NewCustomer({ typed, onAdded, onLeave }: Adding<Customer> & { typed: string }) {
  const [name, setName] = useState(typed);
  const [phone, setPhone] = useState("");
  const [mail, setMail] = useState("");
  const [address, setAddress] = useState("");
  const add = useAddCustomer();
  const fault = faultsOf(add.error);
  return (
    <Fresh
      label="Add the customer"
      error={add.error}
      told={["name", "phone", "mail", "address"].some((f) => fault(f))}
      busy={add.isPending}
      onAdd={() => add.mutate({ name, phone, mail, address }, { onSuccess: onAdded })}
      onLeave={onLeave}
    >
      <div className="grid grid-cols-2 max-[600px]:grid-cols-1 gap-3">
        <Field label="Name" value={name} onValue={setName} error={fault("name")} autoFocus />
        <Field label="Telephone" type="tel" value={phone} onValue={setPhone} error={fault("phone")} />
        <Field label="Email" type="email" value={mail} onValue={setMail} error={fault("mail")} />
        <Field label="Address" value={address} onValue={setAddress} error={fault("address")} />
      </div>
    </Fresh>
  );
}

/** A vehicle of a customer. */
export function NewVehicle({
  typed,
  customer,
  onAdded,
  onLeave,
}: Adding<Vehicle> & { typed: string; customer: string }) {
  const [name, setName] = useState(typed);
  const [registration, setRegistration] = useState("");
  const add = useAddVehicle();
  const fault = faultsOf(add.error);
  return (
    <Fresh
      label="Add the vehicle"
      error={add.error}
      told={["name", "registration"].some((f) => fault(f))}
      busy={add.isPending}
      onAdd={() => add.mutate({ name, registration, customer }, { onSuccess: onAdded })}
      onLeave={onLeave}
    >
      <div className="grid grid-cols-2 max-[600px]:grid-cols-1 gap-3">
        <Field
          label="Vehicle name, as you call it"
          value={name}
          onValue={setName}
          error={fault("name")}
          autoFocus
        />
        <Field
          label="Registration"
          value={registration}
          onValue={setRegistration}
          error={fault("registration")}
        />
      </div>
    </Fresh>
  );
}

type NewUnitProps = Adding<Assembly> & { typed: string; sheet: string | undefined; vehicle: string };

/** A unit of a vehicle: of a family there is a sheet for, or of one nobody here knows. */
export function NewUnit({ typed, sheet, vehicle, onAdded, onLeave }: NewUnitProps) {
  const way = useWay();
  const [name, setName] = useState(typed);
  const [serial, setSerial] = useState("");
  const [gears, setGears] = useState(0);
  const add = useAddUnit(vehicle);
  const unit = {
    name,
    serial,
    route: way.chosen,
    ...(sheet && { sheet }),
    ...(way.counts && gears > 0 && { gears }),
  };
  const fault = faultsOf(add.error);
  return (
    <Fresh
      label="Add the unit"
      error={add.error}
      told={["name", "serial", "route"].some((f) => fault(f))}
      busy={add.isPending}
      onAdd={() => add.mutate(unit, { onSuccess: onAdded })}
      onLeave={onLeave}
    >
      <div className="grid grid-cols-2 max-[600px]:grid-cols-1 gap-3">
        <Field label="Unit type or family" value={name} onValue={setName} error={fault("name")} autoFocus />
        <Field label="Serial number" value={serial} onValue={setSerial} error={fault("serial")} />
      </div>
      <WhatItIs way={way} />
      {way.counts && <Gears chosen={gears} marks onPick={setGears} />}
      {fault("route") && (
        <p role="alert" className="text-out">
          Choose the kind of unit and the route.
        </p>
      )}
      {!sheet && (
        <p className="text-quiet text-note">
          No spec sheet for this yet. Each step will ask for the figures it needs.
        </p>
      )}
    </Fresh>
  );
}

/** What the unit is and how it is worked; where there is one way, that is it. */
function useWay() {
  const routes = useRoutes().data?.filter((r) => !r.unused) ?? [];
  const [kind, setKind] = useState("");
  const [route, setRoute] = useState("");
  const mine = routes.filter((r) => r.kind === kind);
  const only = mine.length === 1 ? mine[0]?.id : undefined;
  const chosen = route || (only ?? "");
  return {
    kinds: [...new Set(routes.map((r) => r.kind))],
    kind,
    pickKind: (k: string) => {
      setKind(k);
      setRoute("");
    },
    mine,
    route,
    setRoute,
    chosen,
    counts: mine.some((r) => r.id === chosen && r.gears),
  };
}

const WhatItIs = ({ way }: { way: ReturnType<typeof useWay> }) => (
  <>
    <div>
      <p className="text-small text-quiet">Kind of unit</p>
      <Answers
        label="Kind of unit"
        answers={way.kinds.map((k) => ({ id: k, text: k }))}
        chosen={way.kind}
        keyed={false}
        marks
        onPick={way.pickKind}
      />
    </div>
    {way.mine.length > 1 && (
      <div>
        <p className="text-small text-quiet">Route</p>
        <Choices
          label="Route"
          chosen={way.route}
          onPick={way.setRoute}
          className="border border-ink bg-sheet"
        >
          {way.mine.map((r) => (
            <Choice key={r.id} value={r.id} marked className="px-3 py-1.5">
              {r.title}
            </Choice>
          ))}
        </Choices>
      </div>
    )}
  </>
);
