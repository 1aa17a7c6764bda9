import { type RefObject, useEffect, useId, useRef } from "react";
import { said as told } from "../../model/json";
import { daysUntil, dayTyped } from "../../model/moment";
import type { Vehicle } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { Line } from "./Pick";

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
  const [complaint, setComplaint] = useKept("intake.complaint");
  const [answer, setTold] = useKept("intake.told");
  const [promised, setPromised] = useKept("intake.promised");
  const [odometer, setOdometer] = useKept(at("odometer"));
  const [use, setUse] = useKept(at("use"));
  const [torque, setTorque] = useKept(at("torque"), vehicle?.facts?.engine_torque);
  const [tyre, setTyre] = useKept(at("tyre"), vehicle?.facts?.tyre);
  const [coldest, setColdest] = useKept(at("coldest"), vehicle?.facts?.coldest_start);
  const facts = told({ engine_torque: torque, tyre, coldest_start: coldest });
  return {
    complaint,
    setComplaint,
    told: answer,
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
      facts,
      ...told({ told: answer, odometer, use }),
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
export function Now({ said, fault }: SaidProps) {
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

export function Why({ said, fault, unit }: SaidProps & { unit: string | undefined }) {
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
