import { useState } from "react";
import { useCount, useCountByFile } from "../../data/shop";
import { moment } from "../../model/moment";
import type { DrawerItem, DrawerPage } from "../../model/types";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { FileButton } from "../../parts/FileButton";
import { Form, useForm } from "../../parts/Form";

/** A drawer as it lies: touch a compartment to correct what is in it. */
export function DrawerDrawn({ drawer: d, writes }: { drawer: DrawerPage; writes: boolean }) {
  const [at, setAt] = useState<string | undefined>();
  const item = d.items.find((i) => i.size === at);
  return (
    <section aria-label={d.title} className="bg-sheet border border-ink">
      <div className="flex flex-wrap gap-x-5 items-center px-5 py-1 border-b border-ink min-h-12">
        <h2 className="text-head mr-auto first-letter:uppercase">{d.title}</h2>
        <a
          href={`/api/v1/drawers/${d.id}/drawer.csv`}
          download
          className="min-h-11 min-w-11 flex items-center"
        >
          CSV<span className="sr-only"> of {d.title}</span>
        </a>
        {writes && <BringIn drawer={d.id} title={d.title} />}
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(128px,1fr))] p-px">
        {d.items.map((i) => (
          <li key={i.size} className="border border-hair -ml-px -mt-px">
            <Compartment
              item={i}
              chosen={i.size === at}
              onPick={writes ? () => setAt(i.size === at ? undefined : i.size) : undefined}
            />
          </li>
        ))}
      </ul>
      {item && (
        <Correct
          key={`${item.size} ${item.count}`}
          drawer={d.id}
          item={item}
          onDone={() => setAt(undefined)}
        />
      )}
      <Moves drawer={d} />
    </section>
  );
}

type CompartmentProps = { item: DrawerItem; chosen: boolean; onPick: (() => void) | undefined };

const Compartment = ({ item: i, chosen, onPick }: CompartmentProps) => (
  <button
    type="button"
    aria-pressed={chosen}
    disabled={!onPick}
    onClick={onPick}
    className={`w-full h-full text-left px-3 py-2 ${chosen ? "bg-tint" : ""}`}
  >
    <span className="flex justify-between items-baseline">
      <span className="font-mono font-medium">{i.size}</span>
      <span className="text-quiet text-small">{i.place}</span>
    </span>
    <Pieces item={i} />
    <span className={`text-small ${i.count < i.least ? "text-undecided font-semibold" : "text-quiet"}`}>
      {i.count}
      {i.least > 0 && `, at least ${i.least}`}
      {i.name && `, ${i.name}`}
    </span>
  </button>
);

/** Up to twelve pieces as they lie on edge; the line is how many there should be. */
function Pieces({ item: i }: { item: DrawerItem }) {
  const most = 12;
  return (
    <svg viewBox="0 0 120 22" className="w-full h-[22px]" aria-hidden="true">
      {Array.from({ length: Math.min(i.count, most) }, (_, k) => (
        <rect key={k} x={2 + k * 9} y="2" width="5" height="18" fill="var(--sheet)" stroke="var(--ink)" />
      ))}
      {i.least > 0 && (
        <line
          x1={0.5 + Math.min(i.least, most) * 9}
          x2={0.5 + Math.min(i.least, most) * 9}
          y1="0"
          y2="22"
          stroke="var(--undecided)"
          strokeWidth="2"
        />
      )}
    </svg>
  );
}

function Moves({ drawer: d }: { drawer: DrawerPage }) {
  if (d.moves.length === 0) return null;
  return (
    <details className="border-t border-hair px-5 py-2">
      <summary className="min-h-11 flex items-center cursor-pointer text-quiet">History</summary>
      <ul className="text-note">
        {d.moves.map((m) => (
          <li key={`${m.at} ${m.size}`} className="flex flex-wrap gap-x-4">
            <span className="font-mono w-24">{m.size}</span>
            <span className="font-mono w-12">{m.change > 0 ? `+${m.change}` : `−${-m.change}`}</span>
            <span>
              {m.number ? `${m.number}: ${m.change < 0 ? "fitted" : "put back"}` : m.why}, {m.by},{" "}
              {moment(m.at)}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

type CorrectProps = { drawer: string; item: DrawerItem; onDone: () => void };

function Correct({ drawer, item: i, onDone }: CorrectProps) {
  const keep = useCount(drawer);
  const start = { count: String(i.count), least: String(i.least), place: i.place ?? "", why: "" };
  const { said, line } = useForm(start, keep);
  const { why, ...counted } = said;
  const figure = { numeric: true, inputMode: "numeric", className: "basis-[110px]" } as const;
  return (
    <Form
      label={`Change ${i.size}`}
      write={keep}
      value={{ lines: [{ size: i.size, was: i.count, ...counted }], why }}
      onTaken={onDone}
      className="border-t border-ink border-l-6 border-l-blue p-4 flex flex-wrap gap-3 items-end"
      go="Save"
      beside={<Button onClick={onDone}>Cancel</Button>}
    >
      <p className="font-mono font-medium text-head self-center">{i.size}</p>
      {line("count", "How many", { ...figure, autoFocus: true })}
      {line("least", "At least", figure)}
      {line("place", "Location", { className: "basis-[140px]" })}
      {line("why", "Reason: counted, delivered, lost", { className: "grow basis-[200px]" })}
    </Form>
  );
}

function BringIn({ drawer, title }: { drawer: string; title: string }) {
  const bring = useCountByFile(drawer);
  return (
    <>
      <FileButton
        label={`CSV file for ${title}`}
        accept=".csv,.txt"
        disabled={bring.isPending}
        onFile={(file) => bring.mutate(file)}
      >
        Import CSV
      </FileButton>
      <Fault error={bring.error} />
    </>
  );
}
