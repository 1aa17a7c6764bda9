import type { Answer } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PartProps } from "./acts";
import { Once } from "./Once";

/** A part is looked at: what was seen, and the verdict. */
export function InspectPart({ view, part, say, busy, correcting }: PartProps) {
  const usual = correcting
    ? (part.reason ?? "")
    : part.not_found
      ? "was not there when taken apart"
      : (part.damage ?? "");
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`, usual);
  const judge = (outcome: string) =>
    say({ act: "verdict", item: part.id, outcome, ...(reason.trim() && { reason }) }, () => setReason(usual));
  const wants = (x: Answer) => x.reason === true && reason.trim() === "";
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting && "Correct: "}
        {part.name}
        <Once part={part} />
        {part.not_found && <span className="ml-3 text-small font-normal text-out">was not there</span>}
      </h3>
      <div className="flex flex-wrap gap-2 items-end mt-2">
        <Field
          label="What was seen"
          value={reason}
          onValue={setReason}
          className="grow basis-[220px]"
          autoFocus
        />
        {part.answers.map((x, i) => (
          <Judge
            key={x.id}
            hint={String(i + 1)}
            id={x.id}
            text={x.text}
            disabled={busy || wants(x)}
            onPick={() => judge(x.id)}
          />
        ))}
      </div>
    </div>
  );
}

type JudgeProps = { hint: string; id: string; text: string; disabled: boolean; onPick: () => void };

function Judge({ hint, id, text, disabled, onPick }: JudgeProps) {
  useKey(hint, text.toLowerCase(), onPick, !disabled);
  return (
    <Button hint={hint} name="verdict" value={id} disabled={disabled} onClick={onPick}>
      {text}
    </Button>
  );
}
