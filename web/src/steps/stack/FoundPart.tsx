import { said } from "../../model/json";
import { typedWords } from "../../model/stack";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

/** A part that no plan foresaw, typed in one line; it gets a number and goes back in at its place. */
export function FoundPart({ view, say }: PropsOf<"stack">) {
  const [line, setLine] = useKept(`${view.step.id}.found`);
  const part = typedWords(line);
  const behind = view.stack.findLast((p) => p.removed)?.id;
  const words = part && [
    part.faces,
    part.facing && `faces ${part.facing}`,
    part.tray,
    part.shaft && `on the ${part.shaft}`,
    part.mark && `marked ${part.mark}`,
    part.value,
    part.bolts && `held by ${part.bolts}`,
  ];
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!part) return;
        const { tray, shaft, mark, value, bolts } = part;
        const faces = [part.faces, part.facing && `faces ${part.facing}`].filter(Boolean).join(", ");
        say(
          {
            act: "removed",
            outcome: "removed",
            name: part.name,
            ...said({ faces, behind }),
            ...said({ tray, shaft, mark, value, bolts }),
          },
          () => setLine(""),
        );
      }}
    >
      <Field
        label="Found a part not on the list? Type it on one line, name first"
        placeholder="Spacer, faces rear, tray 3, marked two dots, 1.52 mm"
        value={line}
        onValue={setLine}
        className="grow basis-[300px]"
      />
      <Button type="submit" disabled={!part}>
        Add part
      </Button>
      {words && (
        <p role="status" className="basis-full text-small text-quiet">
          {part.name}: {words.filter(Boolean).join("; ") || "no details"}
          {behind && `, after ${view.stack.find((p) => p.id === behind)?.name ?? ""}`}
        </p>
      )}
    </form>
  );
}
