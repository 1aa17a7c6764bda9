import { useId, useState } from "react";
import { useUnits } from "../../data/calc";
import { inUnit, nextOf, paired, say as sayQ, withUnit } from "../../model/quantity";
import { placeText } from "../../model/place";
import {
  type Draft,
  type EntryView,
  liveAt,
  type Quantity,
  type TorqueView,
  type Verdict as V,
} from "../../model/types";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Fault, faulty } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Frame } from "../../parts/Frame";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { Verdict, VerdictShape } from "../../parts/Verdict";
import type { PropsOf } from "../props";
import { BoltCircle } from "./BoltCircle";

type Cell = TorqueView["cells"][number];

/** A group whose torque is known. */
type Known = TorqueView & Required<Pick<TorqueView, "group" | "plan">>;

const itemOf = (c: { pass: number; bolt: number }) => placeText({ pass: c.pass, bolt: c.bolt });
const live = (entries: EntryView[], item: string) => liveAt(entries, "torqued", item);

export default function TorqueStep(p: PropsOf<"torque">) {
  const { group, plan } = p.view.torque;
  return group && plan ? <Bolts {...p} torque={{ ...p.view.torque, group, plan }} /> : <Unknown {...p} />;
}

/** Every bolt held; a round from before a bolt was turned is done anew. */
function roundHeld(entries: EntryView[]): Draft {
  const before = liveAt(entries, "outcome", "check-round");
  return {
    act: "outcome",
    item: "check-round",
    outcome: "held",
    ...(before && { supersedes: before.id }),
  };
}

/** Nobody knows the torque: tightened by practice, evenly, and looked over; the record says so. */
function Unknown({ view, say }: PropsOf<"torque">) {
  const held = view.torque.held === true;
  const hold = () => say(roundHeld(view.entries));
  useKey("act", "the check round held", hold, !held);
  return (
    <div className="border border-ink border-l-5 border-l-undecided p-4 mt-3.5">
      <h3 className="text-head">Torque not known: across, in two passes, then once over all of them.</h3>
      <p className="text-quiet mb-2">
        No reading is judged here; the record says that the torque was not known.
      </p>
      {held ? (
        <p className="font-semibold">Looked over: every bolt held.</p>
      ) : (
        <Button look="go" hint="F" name="outcome" value="held" onClick={hold}>
          Every bolt held
        </Button>
      )}
    </div>
  );
}

/** A group of bolts: which next, how far, and what the wrench showed for each. */
function Bolts({ view, torque, say, fault, refused }: PropsOf<"torque"> & { torque: Known }) {
  const units = useUnits().data;
  const [unit, setUnit] = useKept("unit.torque", view.units[0] ?? "");
  const [correcting, setCorrecting] = useState<Cell | undefined>();
  const cell = correcting ?? torque.next;
  // Typed for a bolt, a reading stays with it, whoever takes the bolt meanwhile.
  const place = `${view.step.id}.torque`;
  const [typed, setTyped] = useKept(`${place}/${cell ? itemOf(cell) : ""}`);
  const taken = (at: string) =>
    torque.cells.find((c) => itemOf(c) === at && at !== (cell && itemOf(cell)) && live(view.entries, at));
  const old = correcting && live(view.entries, itemOf(correcting));
  const turn = () => setUnit(nextOf(view.units, unit));
  const held = torque.held === true;
  useKey("unit", "another unit", turn, !torque.next?.angle_deg);
  useKey("act", "the check round held", () => say(roundHeld(view.entries)), !torque.next && !held);
  const angle = cell?.angle_deg ?? 0;
  const shownIn = angle > 0 ? "°" : unit;
  /** A setting as this wrench shows it. */
  const set = (q: Quantity) => ({ value: inUnit(q, unit, units), unit });
  const wanted = angle > 0 ? { value: angle, unit: "°" } : cell?.setting;
  const asked = useAsked(typed, shownIn, wanted ? [wanted] : []);
  const wrong = refused?.value === undefined ? null : fault;
  const id = useId();
  const pass = cell?.pass ?? torque.plan.passes.length - 1;
  const take = () => {
    if (!cell || !asked.may()) return;
    const reading: Draft = {
      act: "torqued",
      pass: cell.pass,
      bolt: cell.bolt,
      value: withUnit(typed, shownIn),
    };
    say({ ...reading, ...(old && { supersedes: old.id }) }, () => {
      setTyped("");
      setCorrecting(undefined);
    });
  };
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
        <form
          data-bolt={itemOf(cell)}
          className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue flex flex-wrap gap-3 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            take();
          }}
        >
          <h3 className="text-head basis-full">
            {correcting ? "Correct: bolt" : "Next: bolt"} {cell.bolt}, pass {cell.pass}.{" "}
            {angle > 0 ? (
              <>
                Turn it on by <span className="font-mono">{angle}°</span>
              </>
            ) : (
              <>
                Set the wrench to <span className="font-mono">{sayQ(set(cell.setting), units)}</span>{" "}
                <span className="text-quiet font-normal text-body">
                  ({sayPaired(set(cell.setting), units)})
                </span>
              </>
            )}
          </h3>
          <Field
            key={correcting ? itemOf(cell) : "next"}
            label={angle > 0 ? "It was turned on by" : "The wrench shows"}
            numeric
            value={typed}
            onValue={setTyped}
            inputMode="decimal"
            autoFocus
            {...faulty(wrong, id)}
            className="w-52"
            unit={/[a-z]/i.test(typed) ? undefined : shownIn}
          />
          {angle === 0 && (
            <Button look="quiet" hint="U" onClick={turn}>
              {unit}
            </Button>
          )}
          <Button look="go" type="submit" hint="Enter" disabled={typed.trim() === ""}>
            Take
          </Button>
          {correcting && (
            <Button look="quiet" onClick={() => setCorrecting(undefined)}>
              Leave it
            </Button>
          )}
          <div className="basis-full empty:hidden">
            <Asked question={asked.question} />
            <Fault error={wrong} id={id} />
          </div>
        </form>
      )}
      <LeftBehind
        place={place}
        name={(at) => placeInWords(taken(at))}
        onGo={(at) => setCorrecting(taken(at))}
      />
      {!cell && !held && (
        <div className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
          <h3 className="text-head">
            Check round: once over all bolts at the full setting, in order. None may move.
          </h3>
          <p className="text-quiet mb-2">
            Paint-mark each head as it holds. One that moves is corrected in the strip.
          </p>
          <Button look="go" hint="F" name="outcome" value="held" onClick={() => say(roundHeld(view.entries))}>
            Every bolt held
          </Button>
        </div>
      )}
      <Strip torque={torque} entries={view.entries} current={cell} onPick={setCorrecting} />
      <TorqueMeaning torque={torque} entries={view.entries} set={set} />
    </>
  );
}

const placeInWords = (c: Cell | undefined) => c && `bolt ${c.bolt}, pass ${c.pass}`;

function sayPaired(q: { value: number; unit: string }, units: Parameters<typeof sayQ>[1]) {
  const other = paired(q, units);
  return other ? sayQ(other, units) : "";
}

function stateOf(entries: EntryView[], pass: number, bolt: number): V {
  return live(entries, itemOf({ pass, bolt }))?.verdict ?? "none";
}

type PassesProps = { torque: Known; pass: number; done: boolean; set: (q: Quantity) => Quantity };

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
                ? "from where it stands"
                : `${sayQ(set(x.setting), units)}, ${sayPaired(set(x.setting), units)}`}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

/** One row per pass, the bolts in the order they are tightened. */
type StripProps = {
  torque: Known;
  entries: EntryView[];
  current: Cell | undefined;
  onPick: (c: Cell) => void;
};

function Strip({ torque, entries, current, onPick }: StripProps) {
  const passes = torque.plan.passes.filter((x) => !x.check);
  return (
    <div
      className="mt-4 border border-ink overflow-x-auto"
      tabIndex={0}
      role="group"
      aria-label="Wrench readings"
    >
      <table className="w-full border-collapse text-center">
        <caption className="sr-only">Wrench reading per bolt and pass</caption>
        <thead>
          <tr className="text-quiet text-small">
            <th scope="col" className="font-normal text-left px-3 py-1">
              bolt
            </th>
            {torque.plan.order.map((b) => (
              <th key={b} scope="col" className="font-normal border-l border-hair">
                {b}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {passes.map((x, i) => (
            <tr key={x.name} className="border-t border-hair">
              <th scope="row" className="font-normal text-left px-3 text-note whitespace-nowrap">
                pass {i + 1}
              </th>
              {torque.plan.order.map((bolt) => {
                const c = torque.cells.find((y) => y.pass === i + 1 && y.bolt === bolt);
                const e = c && live(entries, itemOf(c));
                const v = e && e.body.value;
                const now = current?.bolt === bolt && current.pass === i + 1;
                return (
                  <td
                    key={bolt}
                    className={`border-l border-hair h-[46px] min-w-[58px] ${now ? "outline-[3px] -outline-offset-[3px] outline-blue bg-field" : ""}`}
                  >
                    {e && c && (
                      <button
                        type="button"
                        className="w-full min-h-11 font-mono text-body text-center"
                        onClick={() => onPick(c)}
                      >
                        <span className="sr-only">{placeInWords(c)}: </span>
                        {v?.value}{" "}
                        <span className="flex gap-1 items-center justify-center text-tiny text-quiet">
                          <VerdictShape verdict={e.verdict ?? "none"} size={8} />
                          {v?.unit}
                        </span>
                        <span className="sr-only">, {e.verdict ?? "waits"}; correct it</span>
                      </button>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type MeaningProps = { torque: Known; entries: EntryView[]; set: (q: Quantity) => Quantity };

function TorqueMeaning({ torque, entries, set }: MeaningProps) {
  const units = useUnits().data;
  const done = torque.cells.filter((c) => live(entries, itemOf(c))).length;
  const last = entries.findLast((e) => e.act === "torqued" && !e.superseded_by);
  const value = last && last.body.value;
  return (
    <MarginSlot>
      <div aria-live="polite">
        <p className="text-quiet text-small">
          {torque.group.name}: {torque.group.bolts === 1 ? "1 bolt" : `${torque.group.bolts} bolts`},{" "}
          {sayQ(set(torque.group.torque), units)} ± {Math.round(100 * torque.group.tolerance)} %
        </p>
        <p className="font-mono font-medium text-figure leading-none">
          {done}
          <span className="text-head"> of {torque.cells.length} readings</span>
        </p>
        {last && value && (
          <p className="mt-2">
            <Verdict
              verdict={last.verdict ?? "none"}
              says={`bolt ${last.body.bolt}: ${sayQ(value, units)}`}
              small
            />
          </p>
        )}
      </div>
      {torque.off?.map((words) => (
        <p key={words} className="border border-out border-l-6 p-2.5">
          {words}
        </p>
      ))}
    </MarginSlot>
  );
}
