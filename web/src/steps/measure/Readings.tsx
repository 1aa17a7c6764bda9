import { useState } from "react";
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
export function Readings({ view, say, onTyping, error }: Props) {
  const { instruments, trials } = view;
  const trial = trials.at(-1);
  const place = `${view.step.id}.reading`;
  const [typed, setTyped] = useKept(`${place}/${trial?.number ?? 1}`);
  const used = trial?.readings.at(-1)?.body.instrument;
  const [instrument, setInstrument] = useKept(`instrument.${view.step.id}`, used ?? instruments[0]?.id ?? "");
  const usual = instruments.find((i) => i.id === instrument)?.resolution?.unit ?? view.units[0] ?? "";
  const [unit, setUnit] = useKept(`unit.${instrument}`, usual);
  const [touched, setCorrecting] = useState("");
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
  const others = valuesBut(trial, correcting);
  const { min, max } = view.limits ?? {};
  const asked = useAsked(typed, unit, others.length > 0 ? others : [min, max].filter((q) => q !== undefined));
  const take = () => {
    const d = draftOf(typed);
    if (!d || !asked.may()) return;
    say(d, () => {
      type("");
      setCorrecting("");
    });
  };
  const turn = () => setUnit(nextOf(view.units, unit));
  // While a figure is asked for the key turns the unit of that.
  const asks = (openAsk(view, trial)?.units?.length ?? 0) > 1;
  useKey("unit", "another unit", turn, !asks);
  return (
    <>
      <ReadingStrip
        trials={trials}
        entries={view.entries}
        typed={typed}
        onTyped={type}
        unit={unit}
        onTake={take}
        correcting={correcting}
        onCorrect={(id) => {
          setCorrecting(id);
          type("");
        }}
        onStrike={(id) => say({ act: "strike", supersedes: id }, () => setCorrecting(""))}
        error={error}
      />
      <div className="flex flex-wrap gap-2 mt-2.5 items-center text-small text-quiet">
        <ReadWith
          kind={view.gauge_kind ?? ""}
          instruments={instruments}
          value={instrument}
          onPick={setInstrument}
        />
        <Button look="quiet" {...(!asks && { hint: "U" })} title="another unit" onClick={turn}>
          {unit}
        </Button>
        {view.min_readings > 1 && <span className="ml-auto">{view.min_readings} readings at least</span>}
        <span className={view.min_readings > 1 ? "" : "ml-auto"}>
          <kbd>Enter</kbd> take
        </span>
        <span>
          <kbd>←</kbd> correct the last
        </span>
      </div>
      <Fault error={error} id="reading-fault" typing />
      <Asked question={asked.question} />
      <LeftBehind
        place={place}
        name={(at) => (at === String(trial?.number ?? 1) ? undefined : `trial ${at}`)}
      />
    </>
  );
}
