import { useState } from "react";
import { has } from "../../model/json";
import type { SheetLine, SheetPage } from "../../model/types";
import { useSession } from "../../data/session";
import { LineEditor } from "./LineEditor";
import { TorqueDrawn } from "./TorqueDrawn";

export function Lines({ page }: { page: SheetPage }) {
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
                  aria-label={`${room.title}: add a line`}
                  value=""
                  onChange={(e) => setAt(e.target.value)}
                  className="min-h-11 px-3 border border-hair bg-field w-full max-w-[320px] min-w-0 shrink"
                >
                  <option value="">Add a line</option>
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
            {lines.length === 0 && !fresh && <p className="px-5 py-2 text-quiet">Nothing entered yet.</p>}
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

const rooms = [
  { id: "limits", title: "Limits" },
  { id: "torques", title: "Torques" },
  { id: "fills", title: "Fills" },
  { id: "washers", title: "Washers and shims" },
  { id: "stacks", title: "Parts, as they come off" },
  { id: "ways", title: "Options: cost and time" },
  { id: "singles", title: "Parts as they are sold" },
  { id: "kits", title: "Kits" },
  { id: "figures", title: "Other figures" },
];

const roomOf = (path: string) => path.split(".")[0] ?? "";

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

const said = (p: unknown, name: "name" | "faces") => (has(p, name) ? String(p[name]) : "");

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
