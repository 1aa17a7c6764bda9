import { memo, useState } from "react";
import { nextOf, withUnit } from "../../model/quantity";
import type { Draft } from "../../model/types";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { recordName } from "../../parts/saying";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";
import { openAsk } from "./open";
import { ReadingStrip, valuesBut } from "./ReadingStrip";
import { ReadWith } from "./ReadWith";

type Props = PropsOf<"measure"> & { onTyping: (d: Draft | undefined) => void; error: Error | null };

/** The strip of readings, with the instrument at hand and the unit to type in. */
export const Readings = memo(function Readings(p: Props) {
  const { view, say, error } = p;
  const { instruments, trials } = view;
  const at = String(trials.at(-1)?.number ?? 1);
  const place = `${view.step.id}.reading`;
  const hand = useReading(p, `${place}/${at}`);
  const turn = () => hand.setUnit(nextOf(view.units, hand.unit));
  // While a figure is asked for the key turns the unit of that.
  const asks = (openAsk(view, trials.at(-1))?.units?.length ?? 0) > 1;
  useKey("unit", "change unit", turn, !asks);
  return (
    <>
      <ReadingStrip
        trials={trials}
        entries={view.entries}
        typed={hand.typed}
        onTyped={hand.type}
        unit={hand.unit}
        onTake={hand.take}
        correcting={hand.correcting}
        onCorrect={hand.correct}
        onStrike={(id) => say({ act: "strike", supersedes: id }, hand.corrected)}
        error={error}
      />
      <div className="flex flex-wrap gap-2 mt-2.5 items-center text-small text-quiet">
        <ReadWith
          kind={view.gauge_kind ?? ""}
          instruments={instruments}
          value={hand.instrument}
          onPick={hand.setInstrument}
        />
        <Button look="quiet" {...(!asks && { hint: "U" })} title="change unit" onClick={turn}>
          {hand.unit}
        </Button>
        {view.min_readings > 1 && <span className="ml-auto">{view.min_readings} readings or more</span>}
        <span className={view.min_readings > 1 ? "" : "ml-auto"}>
          <kbd>Enter</kbd> record
        </span>
        <span>
          <kbd>←</kbd> correct last
        </span>
      </div>
      <Fault error={error} id="reading-fault" typing />
      <Asked question={hand.question} />
      <LeftBehind place={place} name={(n) => (n === at ? undefined : `trial ${n}`)} />
    </>
  );
});

/** The instrument at hand and the unit to type in: as read last, or as the shop has it. */
function useInstrument(view: Props["view"]) {
  const { instruments, trials } = view;
  const used = trials.at(-1)?.readings.at(-1)?.body.instrument;
  const [instrument, setInstrument] = useKept(`instrument.${view.step.id}`, used ?? instruments[0]?.id ?? "");
  const usual = instruments.find((i) => i.id === instrument)?.resolution?.unit ?? view.units[0] ?? "";
  const [unit, setUnit] = useKept(`unit.${instrument}`, usual);
  return { instrument, setInstrument, unit, setUnit };
}

/** The reading being typed, kept at its place; a wrong one is corrected, not changed. */
function useReading({ view, say, onTyping }: Props, place: string) {
  const [typed, setTyped] = useKept(place);
  const [touched, setCorrecting] = useState("");
  const held = useInstrument(view);
  const { instrument, unit } = held;
  const correcting = recordName(touched);
  const draftOf = (text: string): Draft | undefined =>
    text.trim() === ""
      ? undefined
      : {
          act: "reading",
          value: withUnit(text, unit),
          ...(instrument && { instrument }),
          ...(correcting && { supersedes: correcting }),
        };
  const type = (text: string) => {
    setTyped(text);
    onTyping(draftOf(text));
  };
  const asked = useAsked(typed, unit, besides(view, correcting));
  const take = () => {
    const d = draftOf(typed);
    if (!d || !asked.may()) return;
    say(d, () => {
      type("");
      setCorrecting("");
    });
  };
  const correct = (id: string) => {
    setCorrecting(id);
    type("");
  };
  const corrected = () => setCorrecting("");
  return { ...held, typed, type, take, correcting, correct, corrected, question: asked.question };
}

/** What a reading is held against before it is taken: the others, or else the limits. */
function besides(view: Props["view"], correcting: string) {
  const others = valuesBut(view.trials.at(-1), correcting);
  const { min, max } = view.limits ?? {};
  return others.length > 0 ? others : [min, max].filter((q) => q !== undefined);
}
