import { Link, useNavigate } from "@tanstack/react-router";
import { type RefObject, useEffect, useId, useRef, useState } from "react";
import { ApiError } from "../../model/problem";
import { newKey, useOpen } from "../../data/rebuilds";
import { daysUntil, dayTyped } from "../../model/moment";
import type { Vehicle } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Bar } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { useUnit } from "../../data/fleet";
import { Fault } from "../../parts/Fault";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { useTitle } from "../../parts/focus";
import { useKept } from "../../parts/kept";
import { GearsOf } from "./Gears";
import { useJob } from "./job";
import { CustomerLine, UnitLine, VehicleLine } from "./lines";
import { Line } from "./Pick";
import { Pictures } from "./Pictures";
import { PromisesDrawn } from "./Promised";

const uses = ["road", "towing", "field", "trail", "racing"];

/** From the telephone to an open rebuild: who, what, why, until when. */
export function Intake() {
  useTitle("Take in a job");
  const go = useNavigate();
  const job = useJob();
  const vehicle = job.vehicle;
  const said = useSaid(vehicle);
  const [pictures, setPictures] = useState<File[]>([]);
  const key = useRef(newKey());
  const open = useOpen();
  const take = () =>
    open.mutate(
      {
        key: key.current,
        order: { vehicle: vehicle?.id ?? "", unit: job.unit?.id ?? "", ...said.order() },
        pictures,
        onKept: (kept) => setPictures((list) => list.filter((f) => f !== kept)),
      },
      {
        onSuccess: (r) => {
          said.clear();
          job.say("", "", "");
          void go({ to: "/rebuilds/$id", params: { id: r.id } });
        },
      },
    );
  const fault = (path: string) => (open.error instanceof ApiError ? open.error.field(path) : undefined);
  const elsewhere = open.error instanceof ApiError && open.error.problem.fields?.length ? null : open.error;
  const missing = [
    !job.customer && "customer",
    !vehicle && "vehicle",
    !job.unit && "unit",
    !said.complaint.trim() && "complaint",
    !said.promised && "promised day",
  ].filter((m) => m !== false);
  return (
    <div className="min-h-screen flex flex-col">
      <Bar>
        <h1 className="text-head">Take in a job</h1>
      </Bar>
      <div className="grow grid grid-cols-[minmax(0,1fr)_360px] max-[1100px]:grid-cols-1">
        <main tabIndex={-1} className="bg-sheet px-[34px] max-[820px]:px-5 py-5">
          <h2 className="text-title">Who, what, why, until when</h2>
          <p className="text-quiet text-note mb-3">
            Type any part of a name, a registration or a serial number. What is new is added where you stand.
          </p>
          <CustomerLine job={job} />
          <VehicleLine job={job} />
          {vehicle && <Now key={vehicle.id} said={said} fault={fault} />}
          <UnitLine job={job} />
          {job.unit && vehicle && (
            <GearsOf unit={job.unit} onSaid={(u) => void job.hasUnit(u, vehicle, false)} />
          )}
          <Why said={said} fault={fault} unit={job.unit?.id} />
          <Line title="Pictures">
            <Pictures list={pictures} onList={setPictures} />
          </Line>
        </main>
        <aside className="bg-paper border-l max-[1100px]:border-l-0 max-[1100px]:border-t border-ink p-6 flex flex-col gap-4">
          <PromisesDrawn chosen={said.promised} route={job.unit?.route ?? ""} onPick={said.setPromised} />
          <div className="border-t border-ink pt-4">
            <h3 className="text-line font-semibold">Before the customer leaves</h3>
            <p>
              Look at the unit together: serial number, oil on the floor, signs of an earlier repair. Two
              pictures.
            </p>
          </div>
          <Fault error={elsewhere} />
          <Button look="go" type="submit" form="job" hint="Enter" disabled={open.isPending}>
            Open the rebuild
          </Button>
          {/* Below it: what is wanted no more must not move the button from under the hand. */}
          {missing.length > 0 && <p className="text-quiet text-note">Still wanted: {missing.join(", ")}.</p>}
          {job.unit && <InWork unit={job.unit.id} />}
          <p className="text-quiet text-note">
            Name and telephone stand apart from the sealed record and can be erased on request. Route and spec
            sheet are copied from the book now; later edits of the book do not change this rebuild.
          </p>
        </aside>
      </div>
      <form
        id="job"
        onSubmit={(e) => {
          e.preventDefault();
          if (!open.isPending) take();
        }}
      />
    </div>
  );
}

/** What is said of the job besides whose it is; what is known of the vehicle stands there already. */
function useSaid(vehicle: Vehicle | undefined) {
  const at = (what: string) => `intake.${what}.${vehicle?.id ?? ""}`;
  const [complaint, setComplaint] = useKept("intake.complaint");
  const [told, setTold] = useKept("intake.told");
  const [promised, setPromised] = useKept("intake.promised");
  const [odometer, setOdometer] = useKept(at("odometer"));
  const [use, setUse] = useKept(at("use"));
  const [torque, setTorque] = useKept(at("torque"), vehicle?.facts?.engine_torque);
  const [tyre, setTyre] = useKept(at("tyre"), vehicle?.facts?.tyre);
  const [coldest, setColdest] = useKept(at("coldest"), vehicle?.facts?.coldest_start);
  const facts = {
    ...(torque && { engine_torque: torque }),
    ...(tyre && { tyre }),
    ...(coldest && { coldest_start: coldest }),
  };
  return {
    complaint,
    setComplaint,
    told,
    setTold,
    promised,
    setPromised,
    odometer,
    setOdometer,
    use,
    setUse,
    torque,
    setTorque,
    tyre,
    setTyre,
    coldest,
    setColdest,
    order: () => ({
      complaint,
      promised,
      ...(told && { told }),
      ...(odometer && { odometer }),
      ...(use && { use }),
      facts,
    }),
    clear() {
      for (const empty of [setComplaint, setTold, setPromised, setOdometer, setUse]) empty("");
      setTorque(vehicle?.facts?.engine_torque ?? "");
      setTyre(vehicle?.facts?.tyre ?? "");
      setColdest(vehicle?.facts?.coldest_start ?? "");
    },
  };
}

type SaidProps = { said: ReturnType<typeof useSaid>; fault: (path: string) => string | undefined };

/** How the vehicle stands today; steps take what they ask for from here. */
function Now({ said, fault }: SaidProps) {
  return (
    <div className="pl-[168px] max-[820px]:pl-0 pb-4 grid grid-cols-4 max-[700px]:grid-cols-2 gap-x-2.5 gap-y-3">
      <Field
        form="job"
        label="Now at"
        placeholder="84 000 km, or hours"
        value={said.odometer}
        onValue={said.setOdometer}
        error={fault("odometer")}
        autoFocus
      />
      <Field
        form="job"
        label="Engine torque, greatest"
        value={said.torque}
        onValue={said.setTorque}
        error={fault("facts.engine_torque")}
        placeholder="280 N·m"
      />
      <Field
        form="job"
        label="Tyre"
        value={said.tyre}
        onValue={said.setTyre}
        error={fault("facts.tyre")}
        placeholder="205/75 R16"
      />
      <Field
        form="job"
        label="Coldest start"
        value={said.coldest}
        onValue={said.setColdest}
        error={fault("facts.coldest_start")}
        placeholder="-8 °C"
      />
      <div className="col-span-full flex flex-wrap items-center gap-x-3">
        <p className="text-small text-quiet">Used for</p>
        <Answers
          label="Used for"
          answers={uses.map((u) => ({ id: u, text: u }))}
          chosen={said.use}
          keyed={false}
          marks
          onPick={said.setUse}
        />
        {fault("use") && (
          <p role="alert" className="text-out">
            {fault("use")}
          </p>
        )}
      </div>
    </div>
  );
}

function Why({ said, fault, unit }: SaidProps & { unit: string | undefined }) {
  const words = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    // The line that had the hand is gone once the unit is known.
    if (unit && document.activeElement === document.body) words.current?.focus();
  }, [unit]);
  const away = dayTyped(said.promised) ? daysUntil(said.promised) : undefined;
  return (
    <>
      <Line title="Complaint">
        <Words
          box={words}
          label="Complaint, in the customer's words"
          value={said.complaint}
          onValue={said.setComplaint}
          error={fault("complaint")}
          rows={2}
        />
      </Line>
      <Line title="Told">
        <Words
          label="What the customer was told: what it may cost, what it hangs on"
          value={said.told}
          onValue={said.setTold}
          error={fault("told")}
          rows={2}
        />
      </Line>
      <Line title="Promised">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <DayField
            form="job"
            label="Promised for"
            value={said.promised}
            onValue={said.setPromised}
            error={fault("promised")}
            className="basis-[240px]"
          />
          {away !== undefined && (
            <p className="text-quiet min-h-11 flex items-center">
              {away === 1 ? "tomorrow" : `in ${away} days`}
            </p>
          )}
        </div>
      </Line>
    </>
  );
}

type WordsProps = {
  box?: RefObject<HTMLTextAreaElement | null>;
  label: string;
  value: string;
  onValue: (v: string) => void;
  error: string | undefined;
  rows: number;
};

function Words({ box, label, value, onValue, error, rows }: WordsProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small text-quiet">
        {label}
      </label>
      <textarea
        ref={box}
        id={id}
        value={value}
        rows={rows}
        onChange={(e) => onValue(e.target.value)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        className="w-full border border-ink bg-field px-3 py-2 text-line"
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="text-out text-note">
          {error}
        </p>
      )}
    </div>
  );
}

/** The same unit is on a bench already: a second complaint, or that job. */
function InWork({ unit }: { unit: string }) {
  const open = useUnit(unit).data?.rebuilds.filter((r) => !r.closed) ?? [];
  return open.map((r) => (
    <p key={r.id} role="status" className="border-l-5 border-undecided pl-3">
      <b className="text-undecided">The same unit.</b>{" "}
      <Link to="/rebuilds/$id" params={{ id: r.id }} className="underline">
        {r.number}
      </Link>{" "}
      is still open: {r.complaint} Is this a second complaint, or that job?
    </p>
  ));
}
