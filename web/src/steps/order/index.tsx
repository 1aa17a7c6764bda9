import { useState } from "react";
import { money } from "../../model/costs";
import { dayFromNow, weekday } from "../../model/moment";
import { bought, ordersOf, orderLine, type PartLine, type SupplierOrder } from "../../model/parts";
import { liveAt, type Verdict as V } from "../../model/types";
import { Button } from "../../parts/Button";
import { DayField } from "../../parts/DayField";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { Frame } from "../../parts/Frame";
import { useKey } from "../../parts/keys";
import { MarginSlot } from "../../parts/MarginSlot";
import { Verdict } from "../../parts/Verdict";
import { PromiseDay } from "../PromiseDay";
import type { PropsOf } from "../props";
import { AddLine } from "./AddLine";
import { LineBench } from "./LineBench";
import { MakeKit } from "./MakeKit";
import { Table } from "./Table";
import { Ways } from "./Ways";
import { several } from "../../model/several";

/** What has to come: kit against singles, ordered, held against the old, taken in. */
export default function OrderStep(p: PropsOf<"order">) {
  const { view, say } = p;
  const lines = view.groups.flatMap((g) => g.lines);
  const [picked, setPicked] = useState<string | undefined>();
  const line = lines.find((l) => l.line === picked);
  const decided = liveAt(view.entries, "decision");
  const go = (way: string) =>
    say({ act: "decision", outcome: way, ...(decided && { supersedes: decided.id }) });
  return (
    <>
      {view.ways.length > 1 && (
        <Frame label="Ways of buying">
          <Ways
            ways={view.ways}
            way={view.way}
            upTo={view.agreed?.sum}
            onPick={(way) => way !== view.way && go(way)}
          />
        </Frame>
      )}
      {lines.length > 0 && (
        <Table groups={view.groups} at={line?.line} onPick={(l) => setPicked(l === picked ? undefined : l)}>
          {line && <LineBench key={line.line} {...p} line={line} onDone={() => setPicked(undefined)} />}
        </Table>
      )}
      {lines.length === 0 && (
        <div className="mt-3.5 border border-ink p-4 flex flex-wrap gap-4 items-center">
          <p className="grow">
            {view.nothing ? "No parts needed." : "No part is marked for replacement so far."}
          </p>
          {!view.nothing && (
            <Button name="decision" value="nothing" look="go" onClick={() => go("nothing")}>
              No parts needed
            </Button>
          )}
        </div>
      )}
      <datalist id="suppliers">
        {view.suppliers.map((s) => (
          <option key={s} value={s}>
            {s}
          </option>
        ))}
      </datalist>
      <AddLine {...p} />
      <MakeKit {...p} lines={lines} />
      <MarginSlot>
        <Meaning {...p} />
      </MarginSlot>
      {view.last.to_order + view.last.awaited > 0 && (
        <MarginSlot>
          <PromiseDay {...p} way="" />
        </MarginSlot>
      )}
    </>
  );
}

/** When all of it is here, against the promise; what to order next, from whom; what is left over. */
function Meaning(p: PropsOf<"order">) {
  const { view, say } = p;
  const awaited = bought(view.groups).filter((l) => l.state === "ordered");
  const orders = ordersOf(view.groups);
  const rest = orders.find((o) => o.supplier === "");
  return (
    <>
      <AllHere view={view} />
      <Warnings view={view} />
      {orders
        .filter((o) => o.supplier !== "")
        .slice(0, 4)
        .map((o, i) => (
          <OrderAll key={o.supplier} order={o} hint={`${i + 1}`} say={say} />
        ))}
      {rest && <OrderRest step={view.step.id} lines={rest.lines} say={say} />}
      {awaited.length > 0 && <AllCame {...p} lines={awaited.map((l) => l.line)} />}
      {view.left.length > 0 && (
        <p className="text-quiet text-small">Left over for the drawer: {view.left.join(", ")}.</p>
      )}
    </>
  );
}

type ViewProps = Pick<PropsOf<"order">, "view">;

/** The day all of it is here, against the promise, and what it comes to. */
function AllHere({ view }: ViewProps) {
  const { last } = view;
  const counts = [
    ["to order", last.to_order],
    ["ordered", last.awaited],
    ["here", last.here],
    ["priced lines add up to", money(view.sum)],
  ] as const;
  return (
    <>
      {last.day && (
        <div>
          <p className="text-quiet text-small">All parts here by</p>
          <p className="font-mono font-medium text-[28px] leading-none mt-1">
            {weekday(last.day)} {last.day}
          </p>
        </div>
      )}
      <p className="text-quiet">{last.says}</p>
      {last.day && <Verdict {...inTime(last)} />}
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 border-t border-hair pt-2">
        {counts.map(([word, n]) => (
          <div key={word} className="contents">
            <dt className="text-quiet">{word}</dt>
            <dd className="font-mono text-right">{n}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

function inTime({ late, unknown }: ViewProps["view"]["last"]): { verdict: V; says: string } {
  if (late > 0) return { verdict: "out", says: `Late by ${several(late, "day")}` };
  return unknown > 0
    ? { verdict: "undecided", says: "Some without a date" }
    : { verdict: "in", says: "On time" };
}

/** More than was agreed to, and kits that name what is not there. */
const Warnings = ({ view }: ViewProps) => (
  <>
    {view.over > 0 && view.agreed && (
      <p className="border-l-4 border-undecided pl-3 py-0.5">
        <b className="text-undecided">Ask first.</b> Parts and work are {money(view.over ?? 0)} over the{" "}
        {money(view.agreed.sum)} that {view.agreed.name} approved. Record the new approval at the decision
        step.
      </p>
    )}
    {view.unlike.map((k) => (
      <p key={k.kit} className="text-quiet text-small">
        {k.kit} lists parts this unit does not have: {k.parts.join(", ")}.
      </p>
    ))}
  </>
);

type OrderAllProps = Pick<PropsOf<"order">, "say"> & { order: SupplierOrder; hint: `${number}` };

function OrderAll({ order: o, hint, say }: OrderAllProps) {
  const due = o.lead === undefined ? undefined : dayFromNow(o.lead);
  const go = () =>
    say({ act: "ordered", supplier: o.supplier, ...(due && { due }), lines: o.lines.map(orderLine) });
  useKey(hint, `order from ${o.supplier}`, go);
  const what = o.lines.length === 1 ? (o.lines[0]?.name ?? "") : `${o.lines.length} lines`;
  return (
    <Button look="go" hint={hint} name="ordered" value={o.supplier} onClick={go}>
      Record order from {o.supplier}: {what}
      {due && <span className="block font-normal text-small">due {`${weekday(due)} ${due}`}</span>}
    </Button>
  );
}

type OrderRestProps = Pick<PropsOf<"order">, "say"> & { step: string; lines: PartLine[] };

/** What nobody is known to sell: who it comes from is said once, for all of it. */
function OrderRest({ step, lines, say }: OrderRestProps) {
  const [supplier, setSupplier] = useKept(`${step}.rest.supplier`);
  const [due, setDue] = useKept(`${step}.rest.due`);
  const from = supplier.trim();
  return (
    <form
      className="flex flex-col gap-2 border-t border-hair pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (from === "") return;
        say({ act: "ordered", supplier: from, ...(due && { due }), lines: lines.map(orderLine) }, () => {
          setSupplier("");
          setDue("");
        });
      }}
    >
      <Field
        label={lines.length === 1 ? `${lines[0]?.name ?? ""} comes from` : `These ${lines.length} come from`}
        value={supplier}
        onValue={setSupplier}
        list="suppliers"
      />
      <DayField label="Due" value={due} onValue={setDue} />
      <Button
        type="submit"
        name="ordered"
        value="rest"
        disabled={from === ""}
        why="Say first who they come from."
      >
        Ordered
      </Button>
    </form>
  );
}

function AllCame({ say, lines }: Pick<PropsOf<"order">, "say"> & { lines: string[] }) {
  const all = () => say({ act: "came", lines: lines.map((line) => ({ line, outcome: "fits" })) });
  useKey("arrived", "everything ordered has arrived", all);
  return (
    <Button hint="H" name="came" value="all" onClick={all}>
      All arrived, all fit
    </Button>
  );
}
