import { useReadParts } from "../../data/rebuilds";
import { partWords, typedPart } from "../../model/parts";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { FileButton } from "../../parts/FileButton";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

/**
 * A part that no verdict asks for, work that is sent out, an exchange unit: typed in one line; or a whole
 * table.
 */
export function AddLine({ rebuild, view, say }: PropsOf<"order">) {
  const [text, setText] = useKept(`${view.step.id}.line`);
  const line = typedPart(text);
  const read = useReadParts();
  return (
    <div className="mt-3.5 flex flex-col gap-1.5">
      <form
        className="flex flex-wrap gap-3 items-end"
        onSubmit={(e) => {
          e.preventDefault();
          if (line) say({ act: "wanted", lines: [line] }, () => setText(""));
        }}
      >
        <Field
          label="Add a line"
          placeholder="Fork nut M7 x 1.0, 2 pcs, Bolt shop, 2.50, 5 days"
          value={text}
          onValue={setText}
          className="grow basis-[280px]"
        />
        <Button type="submit" name="wanted" disabled={!line}>
          Add to the list
        </Button>
        <a
          href={`/api/v1/rebuilds/${rebuild}/steps/${view.step.id}/parts.csv`}
          download
          className="min-h-11 min-w-11 flex items-center"
        >
          CSV
        </a>
        <FileButton
          label="CSV file with order lines"
          accept=".csv,.txt"
          look="quiet"
          disabled={read.isPending}
          onFile={(f) => read.mutate(f, { onSuccess: ({ lines }) => say({ act: "wanted", lines }) })}
        >
          Import CSV
        </FileButton>
      </form>
      <p className="text-small text-quiet" role="status">
        {line
          ? `${line.name}: ${partWords(line)}`
          : "Start the line with “send out:” for work, or “exchange:” for a unit, that goes away."}
      </p>
      <Fault error={read.error} />
    </div>
  );
}
