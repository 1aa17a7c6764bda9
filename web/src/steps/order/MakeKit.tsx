import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, unwrap } from "../../model/client";
import type { PartLine } from "../../model/parts";
import { Button } from "../../parts/Button";
import { useSession } from "../../parts/data";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import type { PropsOf } from "../props";

type Props = Pick<PropsOf<"order">, "rebuild" | "view"> & { lines: readonly PartLine[] };

/** A lead makes a kit of lines of the list: the family's sheet has it from then on. */
export function MakeKit(p: Props) {
  const leads = useSession().data?.person.role === "lead";
  const [open, setOpen] = useState(false);
  const parts = p.lines.filter((l) => l.in_kits);
  if (!leads || parts.length < 2) return null;
  return (
    <div className="mt-3.5">
      {open ? (
        <Making {...p} lines={parts} onDone={() => setOpen(false)} />
      ) : (
        <Button look="quiet" name="make-kit" onClick={() => setOpen(true)}>
          Make a kit of these parts
        </Button>
      )}
    </div>
  );
}

function Making({ rebuild, view, lines, onDone }: Props & { onDone: () => void }) {
  const cache = useQueryClient();
  const [form, setForm] = useState({ name: "", supplier: "", price: "", days: "" });
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/kept-kit", {
          params: { path: { id: rebuild } },
          body: {
            step: view.step.id,
            name: form.name,
            supplier: form.supplier,
            price: form.price,
            lead_days: form.days,
            lines: lines.filter((l) => !out.has(l.line)).map((l) => l.line),
          },
        }),
      ),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["rebuild", rebuild, "step", view.step.id] }); // the sheet's next version is offered
      onDone();
    },
  });
  const fault = (f: string) => (keep.error instanceof ApiError ? keep.error.field(f) : undefined);
  const field = (name: keyof typeof form, label: string, more: object = {}) => (
    <Field
      label={label}
      value={form[name]}
      onValue={(v) => setForm({ ...form, [name]: v })}
      error={fault(name === "days" ? "lead_days" : name)}
      className="grow basis-[105px]"
      {...more}
    />
  );
  const said = form.name.trim() !== "" && form.supplier.trim() !== "";
  const numbers = form.price.trim() !== "" && form.days.trim() !== "";
  return (
    <form
      aria-label="A kit of these parts"
      className="border border-ink border-l-6 border-l-blue p-4 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (said && numbers && !keep.isPending) keep.mutate();
      }}
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
        {field("name", "The kit is called", { autoFocus: true, className: "grow basis-[220px]" })}
        {field("supplier", "From", { list: "suppliers" })}
        {field("price", "Price of all of it", { inputMode: "decimal", numeric: true })}
        {field("days", "Days until it comes", { inputMode: "numeric", numeric: true })}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          look="go"
          type="submit"
          hint="Enter"
          name="keep-kit"
          disabled={!said || !numbers || out.size === lines.length || keep.isPending}
          why="Say its name, who sells it, its price and its days."
        >
          Keep it in the family's sheet
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
      <Fault error={keep.error} />
    </form>
  );
}

const without = (set: ReadonlySet<string>, x: string) => new Set([...set].filter((y) => y !== x));
