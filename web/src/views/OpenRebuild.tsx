import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useContext, useRef, useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { newKey, useFleet } from "../parts/data";
import type { Vehicle } from "../model/types";
import { dayFromNow } from "../model/moment";
import { Bar } from "../parts/Bar";
import { Button } from "../parts/Button";
import { Choice, Choices } from "../parts/Choices";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useKept } from "../parts/kept";
import { HelpContext } from "./help";
import { useTitle } from "../parts/focus";

export function OpenRebuild() {
  useTitle("Open a rebuild");
  const help = useContext(HelpContext);
  const fleet = useFleet();
  const go = useNavigate();
  const [pick, setPick] = useKept("open.pick");
  const [complaint, setComplaint] = useKept("open.complaint");
  const [promised, setPromised] = useKept("open.promised");
  const [odometer, setOdometer] = useKept("open.odometer");
  const [use, setUse] = useKept("open.use");
  const key = useRef(newKey());
  const [vehicle = "", unit = ""] = pick.split("/");
  const open = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/v1/rebuilds", {
          params: { header: { "Idempotency-Key": key.current } },
          body: { vehicle, unit, complaint, promised, ...(odometer && { odometer }), ...(use && { use }) },
        }),
      ),
    onSuccess: async (r) => {
      for (const clear of [setPick, setComplaint, setPromised, setOdometer, setUse]) clear("");
      await go({ to: "/rebuilds/$id", params: { id: r.id } });
    },
  });
  const fault = (path: string) => (open.error instanceof ApiError ? open.error.field(path) : undefined);
  const elsewhere = open.error instanceof ApiError && open.error.problem.fields?.length ? null : open.error;
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">Open a rebuild</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1100px] mx-auto p-5">
        <form
          className="bg-sheet border border-ink grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-[820px]:grid-cols-1"
          onSubmit={(e) => {
            e.preventDefault();
            open.mutate();
          }}
        >
          <fieldset className="p-6 border-r border-ink max-[820px]:border-r-0 max-[820px]:border-b">
            <legend className="float-left text-head font-semibold mb-2">
              Which unit comes out of which vehicle?
            </legend>
            <Choices
              label="Unit"
              chosen={pick}
              onPick={setPick}
              className="clear-both border border-hair max-h-[520px] overflow-y-auto"
            >
              {fleet.data?.vehicles.map((v) => (
                <UnitsOf key={v.id} vehicle={v} />
              ))}
            </Choices>
            {(fault("vehicle") ?? fault("unit")) && (
              <p role="alert" className="text-out mt-2">
                Choose a vehicle and its unit.
              </p>
            )}
          </fieldset>
          <div className="p-6 flex flex-col gap-4">
            <div>
              <label htmlFor="complaint" className="block text-small text-quiet">
                Complaint, in the customer's words
              </label>
              <textarea
                id="complaint"
                value={complaint}
                onChange={(e) => setComplaint(e.target.value)}
                rows={4}
                className="w-full border border-ink bg-field px-3 py-2 text-line"
              />
              {fault("complaint") && (
                <p role="alert" className="text-out">
                  {fault("complaint")}
                </p>
              )}
            </div>
            <PromisedDay value={promised} onValue={setPromised} error={fault("promised")} />
            <Field
              label="Odometer: km, miles or hours"
              value={odometer}
              onValue={setOdometer}
              error={fault("odometer")}
            />
            <Field
              label="Used for: road, towing, field, trail"
              value={use}
              onValue={setUse}
              error={fault("use")}
            />
            <Fault error={elsewhere} />
            <Button look="go" type="submit" hint="Enter" disabled={open.isPending}>
              Open the rebuild
            </Button>
            <p className="text-quiet text-note">
              The route and the spec sheet are copied from the book now. Later edits of the book do not change
              this rebuild.
            </p>
          </div>
        </form>
      </main>
    </div>
  );
}

function PromisedDay({
  value,
  onValue,
  error,
}: {
  value: string;
  onValue: (v: string) => void;
  error: string | undefined;
}) {
  const [tomorrow] = useState(() => dayFromNow(1));
  return (
    <Field label="Promised for" type="date" min={tomorrow} value={value} onValue={onValue} error={error} />
  );
}

/** The units in a vehicle, each to be opened. */
function UnitsOf({ vehicle: v }: { vehicle: Vehicle }) {
  return (v.units ?? []).map((u) => (
    <Choice key={u.id} value={`${v.id}/${u.id}`} marked className="px-3 py-2">
      <span className="font-semibold text-line">{v.name}</span> <span className="text-quiet">{v.owner}</span>
      <span className="block text-note">
        {u.name}, <span className="font-mono text-small">{u.serial}</span>
      </span>
    </Choice>
  ));
}
