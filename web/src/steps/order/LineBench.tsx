import { useState } from "react";
import { dayFromNow } from "../../model/moment";
import { isOpen, orderLine, type PartLine, pairsOf } from "../../model/parts";
import { Button } from "../../parts/Button";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";

type Props = PropsOf<"order"> & { line: PartLine; onDone: () => void };

/** One line: ordered, held against the old as it comes in, sent back, or not needed. */
export function LineBench(p: Props) {
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

function Order({ line: l, view, say, onDone }: Props) {
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
        label="For"
        value={price}
        onValue={setPrice}
        inputMode="decimal"
        numeric
        className="basis-[96px]"
      />
      <DayField label="Due" value={due} onValue={setDue} className="basis-[160px]" />
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
function Pieces({ line: l, view, say, onDone }: Props) {
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
            label={i === 0 ? "Measured of it" : "And"}
            placeholder="bore"
            value={x.what}
            onValue={(what) => set(i, { what })}
            className="basis-[150px]"
          />
          <Field
            label="As it goes"
            value={x.reads}
            onValue={(reads) => set(i, { reads })}
            className="basis-[130px]"
          />
          <Field
            label="Agreed"
            value={x.agreed}
            onValue={(agreed) => set(i, { agreed })}
            className="basis-[130px]"
          />
        </li>
      ))}
    </ul>
  );
}

type Pair = { what: string; old: string; new: string };

function CameIn({ line: l, view, say, onDone }: Props) {
  const [pairs, setPairs] = useState<Pair[]>(() => pairsOf(l));
  const [reason, setReason] = useKept(`${view.step.id}.came/${l.line}`);
  const compared = pairs.filter((c) => c.old.trim() && c.new.trim());
  const half = pairs.some((c) => (c.old.trim() === "") !== (c.new.trim() === ""));
  const came = (outcome: "fits" | "rework" | "back" | "deposit-back") =>
    say(
      {
        act: "came",
        lines: [
          {
            line: l.line,
            outcome,
            ...(reason.trim() && { reason }),
            ...(outcome !== "deposit-back" && compared.length > 0 && { compared }),
          },
        ],
      },
      () => {
        setReason("");
        onDone();
      },
    );
  const set = (i: number, more: Partial<Pair>) =>
    setPairs(pairs.map((c, k) => (k === i ? { ...c, ...more } : c)));
  // What was agreed has to be measured before it fits, not before it goes back.
  const unsaid = pairs.some((c) => c.old.trim() === "" && c.new.trim() !== "");
  const here = l.state === "here";
  const why = reason.trim() === "";
  const out = l.kind === "sent-out";
  useKey("act", "it is here and fits", () => came("fits"), !half && !here);
  return (
    <div className="flex flex-col gap-2">
      {!here && (
        <ul className="flex flex-col gap-1.5">
          {pairs.map((c, i) => (
            <li key={i} className="flex flex-wrap gap-2 items-end">
              <span className="basis-[150px] min-h-11 flex items-center font-semibold">{c.what}</span>
              <Field
                label={`${c.what}, ${out ? "agreed" : "old"}`}
                value={c.old}
                onValue={(old) => set(i, { old })}
                className="basis-[130px]"
              />
              <Field
                label={`${c.what}, ${out ? "as it came" : "new"}`}
                value={c.new}
                onValue={(fresh) => set(i, { new: fresh })}
                className="basis-[130px]"
              />
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2 items-end">
        {!here && (
          <>
            <OneMore
              taken={pairs.map((c) => c.what)}
              known={view.compare}
              onAdd={(what) => setPairs([...pairs, { what, old: "", new: "" }])}
            />
            <Button name="came" value="fits" look="go" hint="F" disabled={half} onClick={() => came("fits")}>
              {out ? "Back here, as agreed" : "Here, and it fits"}
            </Button>
          </>
        )}
        <Field
          label="What is not right with it"
          value={reason}
          onValue={setReason}
          className="grow basis-[190px]"
        />
        <Button name="came" value="back" disabled={unsaid || why} onClick={() => came("back")}>
          Send it back
        </Button>
        {!here && (
          <Button name="came" value="rework" disabled={unsaid || why} onClick={() => came("rework")}>
            Make it fit here
          </Button>
        )}
        {here && l.kind === "exchange" && l.state_says.includes("old one") && (
          <Button name="came" value="deposit-back" onClick={() => came("deposit-back")}>
            The old one is back, deposit returned
          </Button>
        )}
      </div>
    </div>
  );
}

/** One more interface to hold against the old part, of those that commonly differ or in words of one's own. */
function OneMore({
  taken,
  known,
  onAdd,
}: {
  taken: string[];
  known: readonly string[];
  onAdd: (what: string) => void;
}) {
  return (
    <select
      aria-label="Hold another interface against the old part"
      value=""
      onChange={(e) => onAdd(e.target.value)}
      className="min-h-11 px-3 border border-hair bg-field max-w-[190px]"
    >
      <option value="">Compare something</option>
      {known
        .filter((w) => !taken.includes(w))
        .map((w) => (
          <option key={w} value={w}>
            {w}
          </option>
        ))}
    </select>
  );
}

/** It need not come; or it has to, after all. */
function Otherwise({ line: l, view, say, onDone }: Props) {
  const [reason, setReason] = useKept(`${view.step.id}.not/${l.line}`);
  if (l.state === "not-needed")
    return (
      <Button
        name="wanted"
        value="wanted"
        onClick={() => say({ act: "wanted", lines: [{ line: l.line, outcome: "wanted" }] }, onDone)}
      >
        It has to come after all
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
      <Field
        label="It need not come, because"
        value={reason}
        onValue={setReason}
        className="grow basis-[200px]"
      />
      <Button type="submit" look="quiet" name="wanted" value="not-needed" disabled={reason.trim() === ""}>
        Leave it out
      </Button>
    </form>
  );
}
