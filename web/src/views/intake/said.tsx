import { useEffect, useRef } from "react";
import { said } from "../../model/json";
import { daysUntil, dayTyped } from "../../model/moment";
import type { Vehicle } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { Words } from "../../parts/Words";
import { useKeptField } from "../../parts/kept";
import { Line } from "./Pick";
import { several } from "../../model/several";

/** What a line of the form shows the fault of; any other stands beside the button. */
export const atLines = [
  "odometer",
  "facts.engine_torque",
  "facts.tyre",
  "facts.coldest_start",
  "use",
  "complaint",
  "told",
  "promised",
];

const uses = ["road", "towing", "field", "trail", "racing"];

/** What is said of the job besides whose it is; what is known of the vehicle stands there already. */
export function useSaid(vehicle: Vehicle | undefined) {
  const at = (what: string) => `intake.${what}.${vehicle?.id ?? ""}`;
  const known = vehicle?.facts ?? {};
  const asked = {
    complaint: useKeptField("intake.complaint"),
    told: useKeptField("intake.told"),
    promised: useKeptField("intake.promised"),
    odometer: useKeptField(at("odometer")),
    use: useKeptField(at("use")),
  };
  const facts = {
    engine_torque: useKeptField(at("torque"), known.engine_torque),
    tyre: useKeptField(at("tyre"), known.tyre),
    coldest_start: useKeptField(at("coldest"), known.coldest_start),
  };
  const { complaint, told, promised, odometer, use } = asked;
  return {
    ...asked,
    facts,
    order: () => ({
      complaint: complaint.value,
      promised: promised.value,
      facts: said({
        engine_torque: facts.engine_torque.value,
        tyre: facts.tyre.value,
        coldest_start: facts.coldest_start.value,
      }),
      ...said({ told: told.value, odometer: odometer.value, use: use.value }),
    }),
    clear() {
      for (const line of Object.values(asked)) line.onValue("");
      facts.engine_torque.onValue(known.engine_torque ?? "");
      facts.tyre.onValue(known.tyre ?? "");
      facts.coldest_start.onValue(known.coldest_start ?? "");
    },
  };
}

type SaidProps = { said: ReturnType<typeof useSaid>; fault: (path: string) => string | undefined };

/** How the vehicle stands today; steps take what they ask for from here. */
export function Now({ said, fault }: SaidProps) {
  return (
    <div className="pl-[168px] max-[820px]:pl-0 pb-4 grid grid-cols-4 max-[700px]:grid-cols-2 gap-x-2.5 gap-y-3">
      <Field
        form="job"
        label="Mileage or hours"
        placeholder="84 000 km, or hours"
        {...said.odometer}
        error={fault("odometer")}
        autoFocus
      />
      <Field
        form="job"
        label="Maximum engine torque"
        {...said.facts.engine_torque}
        error={fault("facts.engine_torque")}
        placeholder="280 N·m"
      />
      <Field
        form="job"
        label="Tyre"
        {...said.facts.tyre}
        error={fault("facts.tyre")}
        placeholder="205/75 R16"
      />
      <Field
        form="job"
        label="Coldest start"
        {...said.facts.coldest_start}
        error={fault("facts.coldest_start")}
        placeholder="-8 °C"
      />
      <div className="col-span-full flex flex-wrap items-center gap-x-3">
        <p className="text-small text-quiet">Used for</p>
        <Answers
          label="Used for"
          answers={uses.map((u) => ({ id: u, text: u }))}
          chosen={said.use.value}
          keyed={false}
          marks
          onPick={said.use.onValue}
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

export function Why({ said, fault, unit }: SaidProps & { unit: string | undefined }) {
  const words = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    // The line that had the hand is gone once the unit is known.
    if (unit && document.activeElement === document.body) words.current?.focus();
  }, [unit]);
  const away = dayTyped(said.promised.value) ? daysUntil(said.promised.value) : undefined;
  return (
    <>
      <Line title="Complaint">
        <Words
          box={words}
          label="Complaint, in the customer's words"
          {...said.complaint}
          error={fault("complaint")}
          rows={2}
        />
      </Line>
      <Line title="Customer told">
        <Words
          label="What did you tell the customer? Likely cost, what it depends on"
          {...said.told}
          error={fault("told")}
          rows={2}
        />
      </Line>
      <Line title="Promised">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
          <DayField
            form="job"
            label="Promised for"
            {...said.promised}
            error={fault("promised")}
            className="basis-[240px]"
          />
          {away !== undefined && (
            <p className="text-quiet min-h-11 flex items-center">
              {away === 1 ? "tomorrow" : `in ${several(away, "day")}`}
            </p>
          )}
        </div>
      </Line>
    </>
  );
}
