import { Link, useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { useBoard } from "../data/rebuilds";
import { useSession } from "../data/session";
import { useEvents } from "../parts/saying";
import type { Rebuild } from "../model/types";
import { daysUntil, weekday } from "../model/moment";
import { Bar } from "../parts/Bar";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { useKey } from "../parts/keys";
import { VerdictShape } from "../parts/Verdict";
import { useTitle } from "../parts/focus";

/** A file that could not be fetched ahead is asked for again, and missed, where it is needed. */
const noMatter = () => undefined;

/** The board: one rule per rebuild, filled as far as it has come. */
export function BoardView() {
  useTitle("Board");
  const [closed, setClosed] = useState(false);
  const board = useBoard(closed);
  useEvents(undefined, ["board"]);
  const first = board.data?.pages[0];
  useScreensFetched(first !== undefined);
  const rebuilds = board.data?.pages.flatMap((page) => page.rebuilds);
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">Board</h1>
      </Bar>
      <main tabIndex={-1} className="px-5 py-5 max-w-[1440px] mx-auto">
        <div className="flex flex-wrap items-end gap-4 mb-4">
          <p className="text-quiet text-line mr-auto">
            {closed
              ? "Handed over, the latest first."
              : "In the shop, earliest promise first. The filled edge shows progress."}
          </p>
          <Which closed={closed} onClosed={setClosed} />
          <OpenOne />
        </div>
        {first?.notice && (
          <p
            role="alert"
            className="bg-sheet border border-out border-l-6 px-4 py-3 mb-4 text-line font-semibold"
          >
            {first.notice}
          </p>
        )}
        <Fault error={board.error} />
        {rebuilds?.length === 0 && (
          <p className="bg-sheet border border-ink p-6 text-line">
            {closed
              ? "Nothing handed over yet."
              : "No rebuilds in the shop. When a unit comes in, press O and take in the job."}
          </p>
        )}
        <ul className="bg-sheet border border-ink empty:hidden">
          {rebuilds?.map((r) => (
            <Row key={r.id} rebuild={r} stations={first?.stations ?? []} />
          ))}
        </ul>
        {board.hasNextPage && (
          <Button
            className="mt-4"
            disabled={board.isFetchingNextPage}
            onClick={() => void board.fetchNextPage()}
          >
            Show more
          </Button>
        )}
      </main>
    </div>
  );
}

/** Whoever looks at the board opens a step next: its screens are fetched once it is drawn. */
function useScreensFetched(drawn: boolean) {
  useEffect(() => {
    if (!drawn) return;
    const next = setTimeout(() => {
      void import("./RebuildView");
      void import("../steps/kinds").then((kinds) => kinds.fetchScreens(), noMatter);
    });
    return () => clearTimeout(next);
  }, [drawn]);
}

const Which = ({ closed, onClosed }: { closed: boolean; onClosed: (c: boolean) => void }) => (
  <div role="group" aria-label="Which rebuilds" className="flex">
    {[false, true].map((c) => (
      <button
        key={String(c)}
        type="button"
        aria-pressed={closed === c}
        onClick={() => onClosed(c)}
        className={`min-h-11 px-4 border border-ink -ml-px ${closed === c ? "bg-tint font-semibold" : "bg-sheet"}`}
      >
        {c ? "Handed over" : "In the shop"}
      </button>
    ))}
  </div>
);

function OpenOne() {
  const go = useNavigate();
  const mayWrite = useSession().data?.person.role !== "reader";
  useKey("open", "take in a job", () => void go({ to: "/open" }), mayWrite);
  return (
    mayWrite && (
      <Button look="go" hint="O" onClick={() => void go({ to: "/open" })}>
        Take in a job
      </Button>
    )
  );
}

function Row({ rebuild: r, stations }: { rebuild: Rebuild; stations: { id: string; title: string }[] }) {
  const at = stations.findIndex((s) => s.id === r.place.station);
  return (
    <li className="border-b border-hair last:border-b-0 hover:bg-tint/40">
      <Link to="/rebuilds/$id" params={{ id: r.id }} className="block text-ink no-underline">
        <div className="grid grid-cols-[92px_minmax(180px,1fr)_minmax(220px,1.2fr)_132px] max-[900px]:grid-cols-[92px_1fr] gap-x-5 items-center px-4 pt-3">
          <p className="font-mono text-head font-medium">{r.number}</p>
          <div>
            <p className="font-semibold text-line">{r.vehicle.name}</p>
            <p className="text-quiet text-small">{r.unit.name}</p>
          </div>
          <p className="text-note flex gap-2 items-start">
            {r.place.verdict && (
              <span className="pt-1.5">
                <VerdictShape verdict={r.place.verdict} size={11} />
              </span>
            )}
            {r.place.held && <HeldMark />}
            <span>{r.place.closed ? "Handed over" : r.place.waits_for}</span>
          </p>
          <Promise day={r.place.promised} closed={r.place.closed} />
        </div>
        <StationRule
          stations={stations}
          at={at}
          done={r.place.done}
          steps={r.place.steps}
          closed={r.place.closed}
        />
      </Link>
    </li>
  );
}

/** Two bars: something from outside is waited for. */
function HeldMark() {
  return (
    <svg
      width="12"
      height="13"
      viewBox="0 0 12 13"
      className="mt-1 shrink-0 text-undecided"
      role="img"
      aria-label="held"
    >
      <path d="M2 1v11M9 1v11" stroke="currentColor" strokeWidth="3" />
    </svg>
  );
}

function Promise({ day, closed }: { day: string; closed: boolean }) {
  const [days] = useState(() => daysUntil(day));
  const late = !closed && days < 0;
  const soon =
    days === 0 ? "today" : days === 1 ? "tomorrow" : days < 0 ? `${-days} days late` : `in ${days} days`;
  return (
    <p className={`text-note whitespace-nowrap ${late ? "text-out font-semibold" : ""}`}>
      <span className="text-quiet">promised </span>
      <span className="whitespace-nowrap">{day}</span>
      {!closed && (
        <span className="block text-small">
          {weekday(day)}, {soon}
        </span>
      )}
    </p>
  );
}

/** The route as a steel rule, laid flat. */
function StationRule({
  stations,
  at,
  done,
  steps,
  closed,
}: {
  stations: { id: string; title: string }[];
  at: number;
  done: number;
  steps: number;
  closed: boolean;
}) {
  return (
    <div className="px-4 pb-2.5 pt-1.5">
      <div className="relative h-[6px] border-b border-ink">
        <div
          className="absolute bottom-0 left-0 h-[5px] bg-blue"
          style={{ width: `${(100 * done) / Math.max(1, steps)}%` }}
        />
      </div>
      <ol
        className="flex"
        aria-label={`Station: ${stations[at]?.title ?? ""}, ${done} of ${steps} steps done`}
      >
        {stations.map((s, i) => (
          <li
            key={s.id}
            className={`flex-1 border-l border-ink pl-1.5 text-tiny max-[900px]:text-[0px] max-[900px]:h-3 ${i === at && !closed ? "font-semibold text-ink max-[900px]:text-tiny" : "text-quiet"}`}
          >
            {s.title}
          </li>
        ))}
      </ol>
    </div>
  );
}
