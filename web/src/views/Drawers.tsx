import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { client, unwrap } from "../model/client";
import { moment } from "../model/moment";
import { drawerNamed, typedCount } from "../model/pack";
import type { DrawerItem, DrawerLine, DrawerPage } from "../model/types";
import { Bar } from "../parts/Bar";
import { Button } from "../parts/Button";
import { useSession } from "../parts/data";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { FileButton } from "../parts/FileButton";
import { useTitle } from "../parts/focus";
import { useKept } from "../parts/kept";
import { HelpContext } from "./help";

/** The shop's drawers, drawn as they lie: a compartment a size, a mark a piece. */
export function DrawersView() {
  useTitle("Drawers");
  const help = useContext(HelpContext);
  const writes = useSession().data?.person.role !== "reader";
  const list = useQuery({
    queryKey: ["drawers"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/drawers"))).drawers,
  });
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">Drawers</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1440px] mx-auto p-5 flex flex-col gap-5">
        <Fault error={list.error} />
        {list.data && <Short drawers={list.data} />}
        {list.data?.map((d) => (
          <DrawerDrawn key={d.id} drawer={d} writes={writes} />
        ))}
        {list.data?.length === 0 && (
          <p className="bg-sheet border border-ink p-5 text-line">
            No drawer has been counted yet. Begin one below: a size a line, with how many there are.
          </p>
        )}
        {writes && list.data && <Column drawers={list.data} />}
      </main>
    </div>
  );
}

/** What there are too few of, over all drawers. */
function Short({ drawers }: { drawers: readonly DrawerPage[] }) {
  const short = drawers.flatMap((d) =>
    d.items
      .filter((i) => i.count < i.least)
      .map((i) => `${i.least - i.count} of ${i.size} ${i.name || d.title}`),
  );
  if (short.length === 0) return null;
  return (
    <p role="status" className="bg-sheet border border-undecided border-l-6 px-4 py-3 text-line">
      <b className="font-semibold">Short:</b> {short.join(", ")}.
    </p>
  );
}

function useCount(drawer: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: { title?: string; lines: DrawerLine[]; why: string }) =>
      unwrap(client.POST("/api/v1/drawers/{id}", { params: { path: { id: drawer } }, body })),
    onSuccess: (now) => cache.setQueryData(["drawers"], now.drawers),
  });
}

function DrawerDrawn({ drawer: d, writes }: { drawer: DrawerPage; writes: boolean }) {
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
            <button
              type="button"
              aria-pressed={i.size === at}
              disabled={!writes}
              onClick={() => setAt(i.size === at ? undefined : i.size)}
              className={`w-full h-full text-left px-3 py-2 ${i.size === at ? "bg-tint" : ""}`}
            >
              <span className="flex justify-between items-baseline">
                <span className="font-mono font-medium">{i.size}</span>
                <span className="text-quiet text-small">{i.place}</span>
              </span>
              <Pieces item={i} />
              <span
                className={`text-small ${i.count < i.least ? "text-undecided font-semibold" : "text-quiet"}`}
              >
                {i.count}
                {i.least > 0 && `, at least ${i.least}`}
                {i.name && `, ${i.name}`}
              </span>
            </button>
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
      {d.moves.length > 0 && (
        <details className="border-t border-hair px-5 py-2">
          <summary className="min-h-11 flex items-center cursor-pointer text-quiet">In and out</summary>
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
      )}
    </section>
  );
}

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

type CorrectProps = { drawer: string; item: DrawerItem; onDone: () => void };

function Correct({ drawer, item: i, onDone }: CorrectProps) {
  const [count, setCount] = useState(String(i.count));
  const [least, setLeast] = useState(String(i.least));
  const [place, setPlace] = useState(i.place ?? "");
  const [why, setWhy] = useState("");
  const keep = useCount(drawer);
  return (
    <form
      aria-label={`Correct ${i.size}`}
      className="border-t border-ink border-l-6 border-l-blue p-4 flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (keep.isPending) return;
        const line = { size: i.size, count, was: i.count, least, place };
        keep.mutate({ lines: [line], why }, { onSuccess: onDone });
      }}
    >
      <p className="font-mono font-medium text-head self-center">{i.size}</p>
      <Field
        label="How many"
        value={count}
        onValue={setCount}
        numeric
        inputMode="numeric"
        autoFocus
        className="basis-[110px]"
      />
      <Field
        label="At least"
        value={least}
        onValue={setLeast}
        numeric
        inputMode="numeric"
        className="basis-[110px]"
      />
      <Field label="Place" value={place} onValue={setPlace} className="basis-[140px]" />
      <Field
        label="Why: counted, delivered, lost"
        value={why}
        onValue={setWhy}
        className="grow basis-[200px]"
      />
      <Button look="go" type="submit" hint="Enter" disabled={keep.isPending}>
        Keep
      </Button>
      <Button onClick={onDone}>Leave it</Button>
      <Fault error={keep.error} />
    </form>
  );
}

/** Counts a drawer, or begins one, by a typed column: a size and a number a line. */
function Column({ drawers }: { drawers: readonly DrawerPage[] }) {
  const [drawer, setDrawer] = useKept("drawer.column.name", drawers[0]?.title ?? "");
  const [text, setText] = useKept("drawer.column");
  const [why, setWhy] = useState("counted");
  const keep = useCount(drawerNamed(drawer, drawers));
  const { lines, typed } = typedCount(text);
  return (
    <form
      className="bg-sheet border border-ink p-5 grid grid-cols-[minmax(0,1fr)_320px] max-[820px]:grid-cols-1 gap-x-5 gap-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!keep.isPending) keep.mutate({ title: drawer, lines, why }, { onSuccess: () => setText("") });
      }}
    >
      <div>
        <h2 className="text-head">Count a drawer</h2>
        <label htmlFor="column" className="block text-small text-quiet">
          A size and how many, a line each: 0.54 mm 3
        </label>
        <textarea
          id="column"
          value={text}
          rows={6}
          onChange={(e) => setText(e.target.value)}
          className="w-full border border-ink bg-field px-3 py-2 font-mono"
        />
      </div>
      <div className="flex flex-col gap-3">
        <Field label="Drawer" value={drawer} onValue={setDrawer} />
        <Field label="Why: counted, delivered" value={why} onValue={setWhy} />
        <p className="text-quiet text-note">
          {typed === 0
            ? "Sizes that are not on the list stay as they are."
            : `${lines.length} of ${typed} lines say a size and a number.`}
        </p>
        <Button
          look="go"
          type="submit"
          disabled={keep.isPending || drawer.trim() === "" || lines.length === 0 || lines.length < typed}
        >
          Keep the count
        </Button>
        <Fault error={keep.error} />
      </div>
    </form>
  );
}

function BringIn({ drawer, title }: { drawer: string; title: string }) {
  const cache = useQueryClient();
  const bring = useMutation({
    mutationFn: async (file: File) =>
      unwrap(
        client.POST("/api/v1/drawers/{id}/import", {
          params: { path: { id: drawer } },
          body: { text: await file.text(), why: `from ${file.name}` },
        }),
      ),
    onSuccess: (now) => cache.setQueryData(["drawers"], now.drawers),
  });
  return (
    <>
      <FileButton
        label={`A file that counts ${title}`}
        accept=".csv,.txt"
        disabled={bring.isPending}
        onFile={(file) => bring.mutate(file)}
      >
        Bring in CSV
      </FileButton>
      <Fault error={bring.error} />
    </>
  );
}
