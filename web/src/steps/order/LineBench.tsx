import { useState } from "react";
import { dayFromNow } from "../../model/moment";
import { isOpen, orderLine, type PartLine } from "../../model/parts";
import { Button } from "../../parts/Button";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";
import { CameIn } from "./CameIn";

export type LineProps = PropsOf<"order"> & { line: PartLine; onDone: () => void };

/** One line: ordered, held against the old as it comes in, sent back, or not needed. */
export function LineBench(p: LineProps) {
  const { line: l } = p;
  // A part may come over the counter; what is sent out has to go first.
  const awaited = (isOpen(l) && l.kind !== "sent-out") || l.state === "ordered";
  return (
    <div data-part={l.line} className="flex flex-col gap-3">
      {isOpen(l) && <Order {...p} />}
      {isOpen(l) && !l.line.startsWith("kit.") && <Pieces {...p} />}
      {(awaited || l.state === "here") && <CameIn {...p} />}
      <Otherwise {...p} />
    </div>
  );
}

function Order({ line: l, view, say, onDone }: LineProps) {
  const place = `${view.step.id}.order/${l.line}`;
  const [supplier, setSupplier] = useKept(`${place}.supplier`, l.supplier);
  const [price, setPrice] = useKept(`${place}.price`, l.price == null ? "" : String(l.price));
  const [due, setDue] = useKept(`${place}.due`, l.lead_days == null ? "" : dayFromNow(l.lead_days));
  const [sent, setSent] = useState<Sent[]>([]);
  const out = l.kind === "sent-out";
  const told = sent.filter((x) => x.what.trim() && (x.reads.trim() || x.agreed.trim()));
  return (
    <form
      className="flex flex-wrap gap-3 items-end"
      aria-label={`Order ${l.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        if (supplier.trim() === "") return;
        const line = {
          ...orderLine(l),
          ...(price.trim() && { price }),
          ...(told.length > 0 && { sent: told }),
        };
        say({ act: "ordered", supplier, ...(due && { due }), lines: [line] }, () => {
          setSupplier("");
          setPrice("");
          setDue("");
          onDone();
        });
      }}
    >
      <Field
        label={out ? "Sent to" : "Ordered from"}
        value={supplier}
        onValue={setSupplier}
        list="suppliers"
        className="grow basis-[150px]"
        autoFocus
      />
      <Field
        label="Price"
        value={price}
        onValue={setPrice}
        inputMode="decimal"
        numeric
        className="basis-[96px]"
      />
      <DayField label="Due on" value={due} onValue={setDue} className="basis-[160px]" />
      <Button
        type="submit"
        look={out ? "go" : "plain"}
        name="ordered"
        hint="Enter"
        disabled={supplier.trim() === ""}
      >
        {out ? "Sent out" : "Ordered"}
      </Button>
      {out && <GoesOut sent={sent} onSent={setSent} />}
    </form>
  );
}

/** How many have to come, where the list counts otherwise than the bench. */
function Pieces({ line: l, view, say, onDone }: LineProps) {
  const [typed, setTyped] = useKept(`${view.step.id}.pieces/${l.line}`, String(l.pieces));
  const pieces = typed.trim();
  return (
    <form
      className="flex flex-wrap gap-2 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (pieces && pieces !== String(l.pieces))
          say({ act: "wanted", lines: [{ line: l.line, pieces }] }, onDone);
      }}
    >
      <Field
        label="Pieces"
        value={typed}
        onValue={setTyped}
        inputMode="numeric"
        numeric
        className="basis-[96px]"
      />
      <Button
        type="submit"
        look="quiet"
        name="wanted"
        value="pieces"
        disabled={pieces === "" || pieces === String(l.pieces)}
        why="It is that many already."
      >
        That many
      </Button>
    </form>
  );
}

type Sent = { what: string; reads: string; agreed: string };

/** What is measured of it as it goes, and what was agreed; it is held against that when it is back. */
function GoesOut({ sent, onSent }: { sent: Sent[]; onSent: (s: Sent[]) => void }) {
  const rows = [...sent, { what: "", reads: "", agreed: "" }];
  const set = (i: number, more: Partial<Sent>) =>
    onSent(
      rows.map((x, k) => (k === i ? { ...x, ...more } : x)).filter((x) => x.what || x.reads || x.agreed),
    );
  return (
    <ul className="basis-full flex flex-col gap-1.5">
      {rows.map((x, i) => (
        <li key={i} className="flex flex-wrap gap-2">
          <Field
            label={i === 0 ? "What was measured" : "And"}
            placeholder="bore"
            value={x.what}
            onValue={(what) => set(i, { what })}
            className="basis-[150px]"
          />
          <Field
            label="Measured before it goes"
            value={x.reads}
            onValue={(reads) => set(i, { reads })}
            className="basis-[130px]"
          />
          <Field
            label="Agreed price or size"
            value={x.agreed}
            onValue={(agreed) => set(i, { agreed })}
            className="basis-[130px]"
          />
        </li>
      ))}
    </ul>
  );
}

/** It need not come; or it has to, after all. */
function Otherwise({ line: l, view, say, onDone }: LineProps) {
  const [reason, setReason] = useKept(`${view.step.id}.not/${l.line}`);
  if (l.state === "not-needed")
    return (
      <Button
        name="wanted"
        value="wanted"
        onClick={() => say({ act: "wanted", lines: [{ line: l.line, outcome: "wanted" }] }, onDone)}
      >
        Needed after all
      </Button>
    );
  if (!isOpen(l) || l.line.startsWith("kit.")) return null;
  return (
    <form
      className="flex flex-wrap gap-2 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() === "") return;
        say({ act: "wanted", lines: [{ line: l.line, outcome: "not-needed", reason }] }, () => {
          setReason("");
          onDone();
        });
      }}
    >
      <Field label="Not needed because" value={reason} onValue={setReason} className="grow basis-[200px]" />
      <Button type="submit" look="quiet" name="wanted" value="not-needed" disabled={reason.trim() === ""}>
        Take off the list
      </Button>
    </form>
  );
}
