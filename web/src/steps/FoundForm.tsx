import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Find } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { useFinds } from "../data/fleet";
import { useSheet } from "../data/rebuilds";
import { Finds } from "../parts/Finds";
import { useKept } from "../parts/kept";
import { TakePhoto } from "../parts/TakePhoto";
import type { StepProps } from "./props";

const severities = [
  { id: "minor", text: "Can wait" },
  { id: "soon", text: "Soon" },
  { id: "unsafe", text: "Not safe to drive" },
];

const settlements = [
  { id: "done", text: "Done now" },
  { id: "advised", text: "Customer advised" },
  { id: "refused", text: "Not wanted" },
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
  const whole = note.trim() !== "" && severity !== "" && settled !== "";
  return (
    <form
      aria-label="Found along the way"
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!whole) return;
        say({ act: "found", note, outcome: severity, settled, ...(photo && { photo }) }, () => {
          setNote("");
          onDone();
        });
      }}
    >
      <Before rebuild={rebuild} say={say} />
      <Seen note={note} onNote={setNote} />
      <Answers
        label="How grave it is"
        answers={severities}
        chosen={severity}
        keyed={false}
        marks
        onPick={setSeverity}
      />
      <Answers
        label="What became of it"
        answers={settlements}
        chosen={settled}
        keyed={false}
        marks
        onPick={setSettled}
      />
      {photo ? (
        <p className="text-in">The picture goes with it.</p>
      ) : (
        <TakePhoto rebuild={rebuild} label="Take a picture of it" onTaken={setPhoto} />
      )}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" name="found" disabled={!whole}>
          Put it on record
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </form>
  );
}

/** What was seen, in words. */
const Seen = ({ note, onNote }: { note: string; onNote: (n: string) => void }) => (
  <>
    <label htmlFor="found" className="block text-small text-quiet">
      Found along the way: a window, a hose, a hole in the floor
    </label>
    <textarea
      id="found"
      rows={2}
      autoFocus
      value={note}
      onChange={(e) => onNote(e.target.value)}
      className="w-full border border-ink bg-field px-3 py-2"
    />
  </>
);
