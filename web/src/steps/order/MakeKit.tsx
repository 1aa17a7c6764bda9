import { useState } from "react";
import { useKeepKit } from "../../data/rebuilds";
import { useLeads } from "../../data/session";
import type { PartLine } from "../../model/parts";
import { Button } from "../../parts/Button";
import { Form, useForm } from "../../parts/Form";
import type { PropsOf } from "../props";

type Props = Pick<PropsOf<"order">, "rebuild" | "view"> & { lines: readonly PartLine[] };

/** A lead makes a kit of lines of the list: the family's sheet has it from then on. */
export function MakeKit(p: Props) {
  const leads = useLeads();
  const [open, setOpen] = useState(false);
  const parts = p.lines.filter((l) => l.in_kits);
  if (!leads || parts.length < 2) return null;
  return (
    <div className="mt-3.5">
      {open ? (
        <Making {...p} lines={parts} onDone={() => setOpen(false)} />
      ) : (
        <Button look="quiet" name="make-kit" onClick={() => setOpen(true)}>
          Make a kit
        </Button>
      )}
    </div>
  );
}

const start = { name: "", supplier: "", price: "", lead_days: "" };

function Making({ rebuild, view, lines, onDone }: Props & { onDone: () => void }) {
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const keep = useKeepKit(rebuild, view.step.id);
  const { said, line } = useForm(start, keep);
  const whole = Object.values(said).every((v) => v.trim() !== "") && out.size < lines.length;
  const brought = lines.filter((l) => !out.has(l.line)).map((l) => l.line);
  return (
    <Form
      label="A kit of these parts"
      write={keep}
      value={whole ? { ...said, lines: brought } : undefined}
      onTaken={onDone}
      className="border border-ink border-l-6 border-l-blue p-4 flex flex-col gap-3"
      go="Save to spec sheet"
      beside={<Button onClick={onDone}>Cancel</Button>}
    >
      <fieldset className="flex flex-wrap gap-x-5">
        <legend className="text-small text-quiet">It brings</legend>
        {lines.map((l) => (
          <label key={l.line} className="min-h-11 flex items-center gap-2">
            <input
              type="checkbox"
              className="size-6"
              checked={!out.has(l.line)}
              onChange={() => setOut(out.has(l.line) ? without(out, l.line) : new Set([...out, l.line]))}
            />
            {l.name}
            {l.pieces > 1 && <span className="font-mono">× {l.pieces}</span>}
          </label>
        ))}
      </fieldset>
      <div className="flex flex-wrap gap-3 items-start">
        {line("name", "The kit is called", { autoFocus: true, className: "grow basis-[220px]" })}
        {line("supplier", "From", { list: "suppliers", className: "grow basis-[105px]" })}
        {line("price", "Price of all of it", { inputMode: "decimal", className: "grow basis-[105px]" })}
        {line("lead_days", "Days until it comes", { inputMode: "numeric", className: "grow basis-[105px]" })}
      </div>
    </Form>
  );
}

const without = (set: ReadonlySet<string>, x: string) => new Set([...set].filter((y) => y !== x));
