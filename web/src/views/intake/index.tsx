import { Link, useNavigate } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { useUnit } from "../../data/fleet";
import { newKey, useOpen } from "../../data/rebuilds";
import { ApiError } from "../../model/problem";
import { Bar } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { useTitle } from "../../parts/focus";
import { GearsOf } from "./Gears";
import { useJob } from "./job";
import { CustomerLine, UnitLine, VehicleLine } from "./lines";
import { Line } from "./Pick";
import { Pictures } from "./Pictures";
import { PromisesDrawn } from "./Promised";
import { atLines, Now, useSaid, Why } from "./said";

type Job = ReturnType<typeof useJob>;
type Said = ReturnType<typeof useSaid>;

/** From the telephone to an open rebuild: who, what, why, until when. */
export function Intake() {
  useTitle("Take in a job");
  const job = useJob();
  const { vehicle } = job;
  const said = useSaid(vehicle);
  const [pictures, setPictures] = useState<File[]>([]);
  const { open, take } = useTaking(job, said, pictures, setPictures);
  const fault = (path: string) => (open.error instanceof ApiError ? open.error.field(path) : undefined);
  return (
    <div className="min-h-screen flex flex-col">
      <Bar>
        <h1 className="text-head">Take in a job</h1>
      </Bar>
      <div className="grow grid grid-cols-[minmax(0,1fr)_360px] max-[1100px]:grid-cols-1">
        <main tabIndex={-1} className="bg-sheet px-[34px] max-[820px]:px-5 py-5">
          <h2 className="text-title">Who, what, why, by when</h2>
          <p className="text-quiet text-note mb-3">
            Type part of a name, registration or serial number. If it is new, add it right here.
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
        <Aside job={job} said={said} open={open} />
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

/** Opens the rebuild under one key, however often it is asked, and goes there. */
function useTaking(job: Job, said: Said, pictures: File[], onPictures: (to: (l: File[]) => File[]) => void) {
  const go = useNavigate();
  const key = useRef(newKey());
  const open = useOpen();
  const take = () =>
    open.mutate(
      {
        key: key.current,
        order: { vehicle: job.vehicle?.id ?? "", unit: job.unit?.id ?? "", ...said.order() },
        pictures,
        onKept: (kept) => onPictures((list) => list.filter((f) => f !== kept)),
      },
      {
        onSuccess: (r) => {
          said.clear();
          job.say("", "", "");
          void go({ to: "/rebuilds/$id", params: { id: r.id } });
        },
      },
    );
  return { open, take };
}

type AsideProps = { job: Job; said: Said; open: ReturnType<typeof useOpen> };

/** The promise, what to do before the customer leaves, and the way to open it. */
function Aside({ job, said, open }: AsideProps) {
  const missing = missingIn(job, said);
  const fields = open.error instanceof ApiError ? (open.error.problem.fields ?? []) : [];
  const told = fields.length > 0 && fields.every((f) => atLines.includes(f.path));
  return (
    <aside className="bg-paper border-l max-[1100px]:border-l-0 max-[1100px]:border-t border-ink p-6 flex flex-col gap-4">
      <PromisesDrawn
        chosen={said.promised.value}
        route={job.unit?.route ?? ""}
        onPick={said.promised.onValue}
      />
      <div className="border-t border-ink pt-4">
        <h3 className="text-line font-semibold">Before the customer leaves</h3>
        <p>
          Look at the unit together: serial number, oil on the floor, signs of an earlier repair. Take two
          pictures.
        </p>
      </div>
      {!told && <Fault error={open.error} />}
      <Button look="go" type="submit" form="job" hint="Enter" disabled={open.isPending}>
        Open the rebuild
      </Button>
      {/* Below it: what is wanted no more must not move the button from under the hand. */}
      {missing.length > 0 && <p className="text-quiet text-note">Still needed: {missing.join(", ")}.</p>}
      {job.unit && <InWork unit={job.unit.id} />}
      <p className="text-quiet text-note">
        Name and telephone are kept apart from the record and can be erased on request. This rebuild keeps
        today's route and spec sheet, whatever changes later.
      </p>
    </aside>
  );
}

function missingIn(job: Job, said: Said) {
  const wanted: Record<string, unknown> = {
    customer: job.customer,
    vehicle: job.vehicle,
    unit: job.unit,
    complaint: said.complaint.value.trim(),
    "promised day": said.promised.value,
  };
  return Object.keys(wanted).filter((name) => !wanted[name]);
}

/** The same unit is on a bench already: a second complaint, or that job. */
function InWork({ unit }: { unit: string }) {
  const open = useUnit(unit).data?.rebuilds.filter((r) => !r.closed) ?? [];
  return open.map((r) => (
    <p key={r.id} role="status" className="border-l-5 border-undecided pl-3">
      <b className="text-undecided">Same unit.</b>{" "}
      <Link to="/rebuilds/$id" params={{ id: r.id }} className="underline">
        {r.number}
      </Link>{" "}
      is still open: {r.complaint}. Is this a second complaint or the same job?
    </p>
  ));
}
