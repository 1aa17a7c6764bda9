import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Find } from "../model/types";
import { Answers } from "../parts/Answers";
import { said } from "../model/json";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { useFinds } from "../data/fleet";
import { useSheet } from "../data/rebuilds";
import { Finds } from "../parts/Finds";
import { useKept } from "../parts/kept";
import { TakePhoto } from "../parts/TakePhoto";
import { Words } from "../parts/Words";
import type { StepProps } from "./props";

const severities = [
  { id: "minor", text: "Can wait" },
  { id: "soon", text: "Soon" },
  { id: "unsafe", text: "Not safe to drive" },
];

const settlements = [
  { id: "done", text: "Done now" },
  { id: "advised", text: "Customer advised" },
  { id: "refused", text: "Customer declined" },
];

/** What was found on the vehicle before and is open: done now, or not wanted, is said of it here. */
function Before({ rebuild, say }: Pick<Props, "rebuild" | "say">) {
  const cache = useQueryClient();
  const open = useFinds(useSheet(rebuild).data?.rebuild.vehicle.id).data?.filter((f) => f.open) ?? [];
  if (open.length === 0) return null;
  const settle = (f: Find, settled: string) =>
    say({ act: "found", note: f.says, outcome: f.severity, settled }, () =>
      cache.setQueryData<Find[]>(["found", f.vehicle], (list) => list?.filter((x) => x.says !== f.says)),
    );
  return (
    <section aria-label="Found before and still open">
      <p className="text-small text-quiet">Found before and still open</p>
      <Finds list={open} onSettle={settle} />
    </section>
  );
}

type Props = Pick<StepProps, "rebuild" | "say"> & { step: string; onDone: () => void };

/** What nobody asked about and somebody saw: how grave, and what became of it. */
export function FoundForm({ rebuild, step, say, onDone }: Props) {
  const [note, setNote] = useKept(`found.${step}`);
  const [severity, setSeverity] = useState("");
  const [settled, setSettled] = useState("");
  const [photo, setPhoto] = useState("");
  const [off, setOff] = useKept(`found.off.${step}`);
  const whole = note.trim() !== "" && severity !== "" && settled !== "";
  return (
    <form
      aria-label="Found something else"
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!whole) return;
        say({ act: "found", note, outcome: severity, settled, ...said({ off: off.trim(), photo }) }, () => {
          setNote("");
          setOff("");
          onDone();
        });
      }}
    >
      <Before rebuild={rebuild} say={say} />
      <Words
        label="What else did you find? A window, a hose, a hole in the floor"
        rows={2}
        autoFocus
        value={note}
        onValue={setNote}
      />
      <Answers
        label="How serious is it?"
        answers={severities}
        chosen={severity}
        keyed={false}
        marks
        onPick={setSeverity}
      />
      <Answers
        label="What was done?"
        answers={settlements}
        chosen={settled}
        keyed={false}
        marks
        onPick={setSettled}
      />
      <Field label="A part that had to come off for it" value={off} onValue={setOff} />
      {photo ? (
        <p className="text-in">Picture attached.</p>
      ) : (
        <TakePhoto rebuild={rebuild} label="Take a picture" onTaken={setPhoto} />
      )}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" name="found" disabled={!whole}>
          Record it
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </form>
  );
}
