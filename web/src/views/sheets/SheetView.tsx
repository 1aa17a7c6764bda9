import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { useSayByFile, useSpecSheet } from "../../data/sheets";
import { has } from "../../model/json";
import type { SheetLine, SheetPage } from "../../model/types";
import { Bar } from "../../parts/Bar";
import { useSession } from "../../data/session";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { FileButton } from "../../parts/FileButton";
import { useTitle } from "../../parts/focus";
import { Versions } from "../../parts/Versions";
import { LineEditor } from "./LineEditor";
import { TorqueDrawn } from "./TorqueDrawn";

const rooms = [
  { id: "limits", title: "Limits" },
  { id: "torques", title: "Torques" },
  { id: "fills", title: "Fills" },
  { id: "washers", title: "Washers and shims" },
  { id: "stacks", title: "Parts, as they come off" },
  { id: "ways", title: "Ways and what they take" },
  { id: "singles", title: "Parts as they are sold" },
  { id: "kits", title: "Kits" },
  { id: "figures", title: "Other figures" },
];

const roomOf = (path: string) => path.split(".")[0] ?? "";

/** A family's spec sheet: what it says, corrected in place, and how it came to say so. */
export function SheetView() {
  const { id = "" } = useParams({ strict: false });
  const page = useSpecSheet(id);
  const s = page.data?.sheet;
  useTitle(s ? `Spec sheet ${s.family}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{s?.family ?? "Spec sheet"}</h1>
        {s && (
          <span className="text-quiet">
            {page.data?.of === "vehicle" ? "figures of this vehicle" : "spec sheet"}, version {s.version}
          </span>
        )}
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1440px] mx-auto p-5 grid grid-cols-[minmax(0,1fr)_360px] max-[1000px]:grid-cols-1 gap-5 items-start"
      >
        <Fault error={page.error} />
        {page.data && <Lines page={page.data} />}
        {page.data && <Margin page={page.data} />}
      </main>
    </div>
  );
}

function Lines({ page }: { page: SheetPage }) {
  const leads = useSession().data?.person.role === "lead";
  const [at, setAt] = useState<string | undefined>();
  const fresh = page.figures.find((f) => f.path === at);
  return (
    <div className="flex flex-col gap-5">
      {rooms.map((room) => {
        const lines = page.lines.filter((l) => roomOf(l.path) === room.id);
        const others = page.figures.filter((f) => roomOf(f.path) === room.id);
        if (lines.length === 0 && (!leads || others.length === 0)) return null;
        return (
          <section key={room.id} aria-label={room.title} className="bg-sheet border border-ink">
            <div className="flex flex-wrap gap-x-4 items-center px-5 py-1.5 border-b border-ink">
              <h2 className="text-head mr-auto">{room.title}</h2>
              {leads && others.length > 0 && (
                <select
                  aria-label={`${room.title}: one more line`}
                  value=""
                  onChange={(e) => setAt(e.target.value)}
                  className="min-h-11 px-3 border border-hair bg-field w-full max-w-[320px] min-w-0 shrink"
                >
                  <option value="">One more line</option>
                  {others.map((f) => (
                    <option key={f.path} value={f.path}>
                      {f.title}
                    </option>
                  ))}
                </select>
              )}
            </div>
            {fresh && roomOf(fresh.path) === room.id && (
              <LineEditor key={fresh.path} page={page} figure={fresh} onDone={() => setAt(undefined)} />
            )}
            {lines.length === 0 && !fresh && <p className="px-5 py-2 text-quiet">It says nothing here.</p>}
            <ul>
              {lines.map((l) => (
                <li key={l.path} className="border-b border-hair last:border-b-0">
                  <Line
                    line={l}
                    onCorrect={leads ? () => setAt(at === l.path ? undefined : l.path) : undefined}
                  />
                  {room.id === "stacks" && <Parts value={l.value} />}
                  {at === l.path && (
                    <LineEditor page={page} figure={l} now={l} onDone={() => setAt(undefined)} />
                  )}
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

const said = (p: unknown, name: "name" | "faces") => (has(p, name) ? String(p[name]) : "");

/** A stack in the order in which it comes off, with the way each part faces. */
function Parts({ value }: { value: unknown }) {
  const parts = Array.isArray(value) ? value : [];
  return (
    <ol className="px-5 pb-3 columns-2 max-[820px]:columns-1 list-decimal list-inside">
      {parts.map((p, i) => (
        <li key={i}>
          {said(p, "name")}
          <span className="text-quiet">{said(p, "faces") && `: ${said(p, "faces")}`}</span>
        </li>
      ))}
    </ol>
  );
}

function Line({ line: l, onCorrect }: { line: SheetLine; onCorrect: (() => void) | undefined }) {
  return (
    <div className="flex flex-wrap gap-x-4 items-center px-5 min-h-11">
      <span className="grow basis-[240px]">{l.title}</span>
      {l.shape === "torque" && <TorqueDrawn group={l.value} />}
      <span className="font-mono font-medium">{l.says}</span>
      {onCorrect && (
        <button type="button" className="min-h-11 px-2 text-quiet underline" onClick={onCorrect}>
          Correct<span className="sr-only"> {l.title}</span>
        </button>
      )}
    </div>
  );
}

function Margin({ page }: { page: SheetPage }) {
  const leads = useSession().data?.person.role === "lead";
  const id = page.sheet.id;
  return (
    <aside className="flex flex-col gap-5">
      <Versions
        history={page.history}
        more={page.more}
        none={
          page.of === "vehicle" ? "Nothing is kept yet." : "As the book has it; nobody here has changed it."
        }
      />
      <section aria-label="Files" className="bg-sheet border border-ink px-5 py-3">
        <p className="flex flex-wrap gap-x-5">
          <a href={`/api/v1/sheets/${id}/sheet.csv`} download className="min-h-11 min-w-11 flex items-center">
            Take it out: CSV
          </a>
          <a
            href={`/api/v1/sheets/${id}/sheet.json`}
            download
            className="min-h-11 min-w-11 flex items-center"
          >
            JSON
          </a>
        </p>
        {leads && <BringIn page={page} />}
      </section>
      <p className="text-quiet text-note">
        {page.of === "vehicle"
          ? "What is kept here holds for every unit of this vehicle from its next rebuild on, whatever its family's sheet says."
          : "A rebuild keeps the sheet it was opened with. What a unit wants and a sheet lacks is asked for at the bench; a lead keeps it here with one key."}
      </p>
    </aside>
  );
}

/** Lays a file's lines over the sheet, all of them or none. */
function BringIn({ page }: { page: SheetPage }) {
  const [why, setWhy] = useState("");
  const bring = useSayByFile(page);
  return (
    <div className="flex flex-col gap-2 border-t border-hair pt-2">
      <Field label="Why this file" value={why} onValue={setWhy} />
      <FileButton
        label="A file with lines of the sheet"
        accept=".csv,.json,.txt"
        disabled={bring.isPending}
        onFile={(file) => bring.mutate({ file, why })}
      >
        Bring in a file: CSV or JSON
      </FileButton>
      <Fault error={bring.error} />
      {bring.data && (
        <p role="status" className="text-in">
          Brought in: version {bring.data.sheet.version}.
        </p>
      )}
    </div>
  );
}
