import { useId, useState } from "react";
import { useUnits } from "../../data/calc";
import { nextOf, say as sayQ, withUnit } from "../../model/quantity";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Fault, faulty } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Frame } from "../../parts/Frame";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";
import { BoltCircle } from "./BoltCircle";
import {
  type Cell,
  itemOf,
  type Known,
  live,
  placeInWords,
  roundHeld,
  sayPaired,
  type Shown,
  shownIn,
  stateOf,
} from "./group";
import { Strip } from "./Strip";
import { TorqueMeaning } from "./TorqueMeaning";

export default function TorqueStep(p: PropsOf<"torque">) {
  const { group, plan, not_here } = p.view.torque;
  if (not_here)
    return (
      <p className="border border-ink border-l-5 border-l-hair p-4 mt-3.5">
        Not on this vehicle, {not_here} says. Nothing to tighten here.
      </p>
    );
  if (group && plan) return <Bolts {...p} torque={{ ...p.view.torque, group, plan }} />;
  // A torque that was just said is on its way: nothing is closed by a key meanwhile.
  const unknown = p.view.figures?.some((f) => f.path.startsWith("torques.") && f.origin === "not-known");
  return unknown ? <Unknown {...p} /> : null;
}

/** Nobody knows the torque: tightened by practice, evenly, and looked over; the record says so. */
function Unknown({ view, say }: PropsOf<"torque">) {
  const held = view.torque.held === true;
  const hold = () => say(roundHeld(view.entries));
  useKey("act", "all bolts held", hold, !held);
  return (
    <div className="border border-ink border-l-5 border-l-undecided p-4 mt-3.5">
      <h3 className="text-head">Torque not known</h3>
      <p className="mb-2">Tighten in two passes, several bolts crosswise. Then check each one.</p>
      <p className="text-quiet mb-2">
        Readings are not judged. The record will say the torque was not known.
      </p>
      {held ? (
        <p className="font-semibold">Checked: every bolt held.</p>
      ) : (
        <Button look="go" hint="F" name="outcome" value="held" onClick={hold}>
          All bolts held
        </Button>
      )}
    </div>
  );
}

type Props = PropsOf<"torque"> & { torque: Known };

/** A group of bolts: which next, how far, and what the wrench showed for each. */
function Bolts(p: Props) {
  const { view, torque } = p;
  const units = useUnits().data;
  const [unit, setUnit] = useKept("unit.torque", view.units[0] ?? "");
  const [correcting, setCorrecting] = useState<Cell | undefined>();
  const cell = correcting ?? torque.next;
  const set = shownIn(unit, units);
  const pass = cell?.pass ?? torque.plan.passes.length - 1;
  const turn = () => setUnit(nextOf(view.units, unit));
  useKey("unit", "change unit", turn, !torque.next?.angle_deg);
  const pick = (bolt: number) => {
    const found = torque.cells.find((x) => x.pass === pass && x.bolt === bolt);
    if (found && live(view.entries, itemOf(found))) setCorrecting(found);
  };
  return (
    <>
      <Frame
        label="Bolt circle"
        side={<Passes torque={torque} pass={pass} done={!cell} set={set} />}
        block={[
          ["numbered", torque.group.bolts > 1 ? "clockwise from the top" : "there is one"],
          ["order", torque.plan.order.join(" ")],
        ]}
      >
        <BoltCircle
          bolts={torque.plan.bolts}
          order={torque.plan.order}
          next={cell?.bolt}
          stateOf={(bolt) => stateOf(view.entries, pass, bolt)}
          onPick={pick}
        />
      </Frame>
      {cell && (
        <Wrench
          {...p}
          cell={cell}
          correcting={correcting !== undefined}
          unit={unit}
          onTurn={turn}
          onDone={() => setCorrecting(undefined)}
        />
      )}
      <Stranded {...p} cell={cell} onGo={setCorrecting} />
      {!cell && !torque.held && <CheckRound {...p} />}
      <Strip torque={torque} entries={view.entries} current={cell} onPick={setCorrecting} />
      <TorqueMeaning torque={torque} entries={view.entries} set={set} />
    </>
  );
}

/** Typed for a bolt, a reading stays with it, whoever takes the bolt meanwhile. */
const placeOf = (view: Props["view"]) => `${view.step.id}.torque`;

type StrandedProps = Props & { cell: Cell | undefined; onGo: (c: Cell | undefined) => void };

/** What was typed for a bolt that somebody else took. */
function Stranded({ view, torque, cell, onGo }: StrandedProps) {
  const here = cell && itemOf(cell);
  const taken = (at: string) =>
    torque.cells.find((c) => itemOf(c) === at && at !== here && live(view.entries, at));
  return (
    <LeftBehind place={placeOf(view)} name={(at) => placeInWords(taken(at))} onGo={(at) => onGo(taken(at))} />
  );
}

type WrenchProps = Props & {
  cell: Cell;
  correcting: boolean;
  unit: string;
  onTurn: () => void;
  onDone: () => void;
};

/** The bolt where the hand is, what to set the wrench to, and what it shows. */
function Wrench(p: WrenchProps) {
  const { cell, correcting, unit, fault, refused, onDone } = p;
  const id = useId();
  const angle = cell.angle_deg ?? 0;
  const { typed, setTyped, unitHere, question, take } = useWrench(p);
  const wrong = refused?.value === undefined ? null : fault;
  return (
    <form
      data-bolt={itemOf(cell)}
      className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <WhatNext cell={cell} correcting={correcting} unit={unit} />
      <Field
        key={correcting ? itemOf(cell) : "next"}
        label={angle > 0 ? "It was turned on by" : "Wrench reading"}
        numeric
        value={typed}
        onValue={setTyped}
        inputMode="decimal"
        autoFocus
        {...faulty(wrong, id)}
        className="w-52"
        unit={/[a-z]/i.test(typed) ? undefined : unitHere}
      />
      {angle === 0 && (
        <Button look="quiet" hint="U" onClick={p.onTurn}>
          {unit}
        </Button>
      )}
      <Button look="go" type="submit" hint="Enter" disabled={typed.trim() === ""}>
        Record
      </Button>
      {correcting && (
        <Button look="quiet" onClick={onDone}>
          Cancel
        </Button>
      )}
      <div className="basis-full empty:hidden">
        <Asked question={question} />
        <Fault error={wrong} id={id} />
      </div>
    </form>
  );
}

/** What is typed for the bolt, in the wrench's unit or in degrees, and its way onto the record. */
function useWrench({ view, say, cell, correcting, unit, onDone }: WrenchProps) {
  const [typed, setTyped] = useKept(`${placeOf(view)}/${itemOf(cell)}`);
  const angle = cell.angle_deg ?? 0;
  const unitHere = angle > 0 ? "°" : unit;
  const asked = useAsked(typed, unitHere, [angle > 0 ? { value: angle, unit: "°" } : cell.setting]);
  const old = correcting ? live(view.entries, itemOf(cell)) : undefined;
  const take = () => {
    if (!asked.may()) return;
    say(
      {
        act: "torqued",
        pass: cell.pass,
        bolt: cell.bolt,
        value: withUnit(typed, unitHere),
        ...(old && { supersedes: old.id }),
      },
      () => {
        setTyped("");
        onDone();
      },
    );
  };
  return { typed, setTyped, unitHere, question: asked.question, take };
}

function WhatNext({ cell, correcting, unit }: { cell: Cell; correcting: boolean; unit: string }) {
  const units = useUnits().data;
  const set = shownIn(unit, units);
  return (
    <h3 className="text-head basis-full">
      {correcting ? "Correct: bolt" : "Next: bolt"} {cell.bolt}, pass {cell.pass}.{" "}
      {cell.angle_deg ? (
        <>
          Turn it on by <span className="font-mono">{cell.angle_deg}°</span>
        </>
      ) : (
        <>
          Set the wrench to <span className="font-mono">{sayQ(set(cell.setting), units)}</span>{" "}
          <span className="text-quiet font-normal text-body">({sayPaired(set(cell.setting), units)})</span>
        </>
      )}
    </h3>
  );
}

/** Once more over all bolts at the full setting. */
function CheckRound({ view, say }: Props) {
  const hold = () => say(roundHeld(view.entries));
  useKey("act", "all bolts held", hold);
  return (
    <div className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">Check round: full setting, in order</h3>
      <p className="mb-2">Go over every bolt. None may move.</p>
      <p className="text-quiet mb-2">
        Paint-mark each head that holds. If one moves, correct its reading in the strip.
      </p>
      <Button look="go" hint="F" name="outcome" value="held" onClick={hold}>
        All bolts held
      </Button>
    </div>
  );
}

type PassesProps = { torque: Known; pass: number; done: boolean; set: Shown };

function Passes({ torque, pass, done, set }: PassesProps) {
  const units = useUnits().data;
  return (
    <ol>
      {torque.plan.passes.map((x, i) => {
        const now = x.check ? done : !done && i + 1 === pass;
        return (
          <li
            key={x.name}
            aria-current={now || undefined}
            className={`px-3 py-2 border-b border-hair ${now ? "bg-tint border-l-5 border-l-blue" : ""}`}
          >
            <b className="font-semibold text-note">
              {x.check
                ? "Check round"
                : `Pass ${i + 1}, ${x.angle_deg ? `on by ${x.angle_deg}°` : `${Math.round(x.share * 100)} %`}`}
            </b>
            <span className="block text-quiet text-small">
              {x.angle_deg
                ? "from where it is"
                : `${sayQ(set(x.setting), units)}, ${sayPaired(set(x.setting), units)}`}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
