import type { StackPart } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PartProps } from "./acts";

function howItGoesIn(part: StackPart) {
  const says = [
    part.faces && `Faces: ${part.faces}.`,
    part.seen && part.seen !== part.faces && `Found: ${part.seen}.`,
    part.mark && `Marked ${part.mark}.`,
    part.fit && `${part.fit}.`,
    part.bolts && `Held by ${part.bolts}.`,
    part.measured && `Measured ${part.measured}.`,
    part.tray && `In ${part.tray}.`,
  ];
  return says.filter(Boolean).join(" ");
}

/** A part goes back: how, and from which tray, with the picture it was taken off by. */
export function FitPart({ view, part, say, correcting }: PartProps) {
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`);
  const fitted = () => say({ act: "fitted", item: part.id, outcome: "fitted" });
  useKey("act", "part fitted", fitted);
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting ? "Correct" : "Now in"}: {part.name}
      </h3>
      <div className="flex gap-4 items-start">
        <p className="text-line grow">{howItGoesIn(part)}</p>
        {part.photo && (
          <a href={`/api/v1/photos/${part.photo}`} target="_blank" rel="noreferrer">
            <img
              src={`/api/v1/photos/${part.photo}/preview`}
              alt={`${part.name}, as it came off`}
              loading="lazy"
              className="h-24 border border-hair"
            />
          </a>
        )}
      </div>
      {part.verdict && part.verdict !== "reuse" && (
        <p className="text-undecided font-semibold">
          {part.verdict === "rework" ? "Reworked: check it again first." : "Fit a new one."}
        </p>
      )}
      <div className="flex flex-wrap gap-3 items-end mt-2">
        <Button look="go" hint="F" name="fitted" value="fitted" data-hand onClick={fitted}>
          Fitted
        </Button>
        <form
          className="flex gap-2 items-end grow"
          onSubmit={(e) => {
            e.preventDefault();
            say({ act: "fitted", item: part.id, outcome: "left-out", reason }, () => setReason(""));
          }}
        >
          <Field label="Left out because" value={reason} onValue={setReason} className="grow" />
          <Button type="submit" look="quiet" disabled={reason.trim() === ""}>
            Leave out
          </Button>
        </form>
      </div>
    </div>
  );
}
