import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useRecord } from "../data/rebuilds";
import { useEvents } from "../parts/saying";
import type { RecordView as Record } from "../model/types";
import { moment } from "../model/moment";
import { Bar } from "../parts/Bar";
import { Fault } from "../parts/Fault";
import { ownerOf, serialOf } from "../model/words";
import { useTitle } from "../parts/focus";
import { useKey } from "../parts/keys";
import { Verdict } from "../parts/Verdict";

/** The record as a drawing with its title block: to read, to print, to hand over. */
export function RecordView() {
  const { id = "" } = useParams({ strict: false });
  const record = useRecord(id);
  const go = useNavigate();
  useEvents(id, ["rebuild", id]);
  useKey("work", "back to the steps", () => void go({ to: "/rebuilds/$id", params: { id } }));
  const rec = record.data;
  useTitle(rec ? `Record ${rec.rebuild.number}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">Record {rec?.rebuild.number}</h1>
        <Link to="/rebuilds/$id" params={{ id }} className="min-h-11 flex items-center gap-1.5">
          Back to the steps <kbd>W</kbd>
        </Link>
      </Bar>
      <main tabIndex={-1} className="max-w-[1040px] mx-auto p-5">
        <Fault error={record.error} />
        {rec && (
          <article className="bg-sheet border border-ink">
            <TitleBlock rec={rec} id={id} />
            <InShort says={rec.summary} />
            {rec.stations
              .filter((s) => s.steps.some((x) => x.lines.length > 0))
              .map((s) => (
                <Station key={s.title} station={s} />
              ))}
            <AlongTheWay found={rec.found} />
            <RunningIn handover={rec.handover} />
            {rec.checkpoint && <Checkpoint text={rec.checkpoint.trim()} />}
          </article>
        )}
      </main>
    </div>
  );
}

const AlongTheWay = ({ found }: Pick<Record, "found">) =>
  found.length > 0 && (
    <section className="px-7 py-4 border-t border-ink">
      <h2 className="text-head">Found something else</h2>
      <ul className="text-line">
        {found.map((f) => (
          <li key={f.says + f.at} className={f.severity === "unsafe" ? "text-out" : ""}>
            {f.says}: {f.words}
          </li>
        ))}
      </ul>
    </section>
  );

const RunningIn = ({ handover }: Pick<Record, "handover">) =>
  handover.length > 0 && (
    <section className="px-7 py-4 border-t border-ink">
      <h2 className="text-head text-blue">Running-in</h2>
      <ol className="list-decimal pl-5 text-line">
        {handover.map((h) => (
          <li key={h}>{h}</li>
        ))}
      </ol>
      <p className="text-quiet text-small mt-2">
        This record says what was found, measured and done. It is no promise that the vehicle is safe; road
        approval follows local rules.
      </p>
    </section>
  );

const Checkpoint = ({ text }: { text: string }) => (
  <section className="px-7 py-3 border-t border-hair text-quiet text-small" aria-label="Checkpoint">
    <p>
      Seal of the shop's log on that day. It lets anyone check that nothing recorded up to then is missing or
      changed.
    </p>
    <pre className="font-mono text-tiny whitespace-pre-wrap break-all">{text}</pre>
  </section>
);

/** The day as it was promised last, and at first. */
const promisedWords = (r: Record["rebuild"]) =>
  r.place.promised === r.promised ? r.promised : `${r.place.promised}, first promised ${r.promised}`;

function TitleBlock({ rec, id }: { rec: Record; id: string }) {
  const r = rec.rebuild;
  const rows: [string, string][] = [
    ["registration", r.whose?.registration ?? ""],
    ["complaint", r.complaint],
    ["was told", r.told ?? ""],
    ["arrived", [moment(r.opened_at), r.odometer].filter(Boolean).join(", ")],
    ["promised", promisedWords(r)],
    ["spec sheet", rec.sheet],
    [
      "signed",
      rec.signed_at ? `${rec.signed_by}, lead, ${moment(rec.signed_at)}` : "not signed: work not finished",
    ],
  ];
  return (
    <header className="border-b border-ink px-7 py-5">
      <div className="flex flex-wrap gap-x-8 gap-y-2 items-baseline">
        <p className="font-mono font-medium text-figure leading-none">{r.number}</p>
        <div className="grow">
          <h2 className="text-title">
            {r.unit.name}, {r.vehicle.name}
          </h2>
          <p className="text-quiet">
            {ownerOf(r)}, {serialOf(r.unit)}
          </p>
        </div>
        <p className="no-print flex gap-4">
          <a href={`/api/v1/rebuilds/${id}/record.pdf`} className="min-h-11 flex items-center" download>
            Print: PDF
          </a>
          <a href={`/api/v1/rebuilds/${id}/archive.json`} className="min-h-11 flex items-center" download>
            Archive: JSON
          </a>
        </p>
      </div>
      <dl className="mt-3">
        {rows
          .filter(([, v]) => v !== "")
          .map(([k, v]) => (
            <div key={k} className="flex gap-4 border-t border-hair py-0.5">
              <dt className="w-24 text-quiet shrink-0">{k}</dt>
              <dd>{v}</dd>
            </div>
          ))}
      </dl>
    </header>
  );
}

const short = [
  ["agreed", "Agreed"],
  ["found", "Found"],
  ["fitted", "Fitted"],
  ["results", "Results"],
  ["open", "Open"],
] as const;

/** The record on one page: what was agreed, found, fitted, how it came out, what is open. */
function InShort({ says }: { says: Record["summary"] }) {
  const said = short.filter(([id]) => says[id].length > 0);
  if (said.length === 0) return null;
  return (
    <section aria-label="In short" className="px-7 py-4 border-b border-ink flex flex-col gap-2">
      {said.map(([id, title]) => (
        <div key={id}>
          <h2 className="text-body text-blue font-semibold">{title}</h2>
          <ul>
            {says[id].map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function Station({ station }: { station: Record["stations"][number] }) {
  return (
    <section className="px-7 py-3 border-b border-hair" aria-label={station.title}>
      <h2 className="text-head">{station.title}</h2>
      {station.steps
        .filter((s) => s.lines.length > 0)
        .map((s) => (
          <div key={s.id} className="mt-1.5">
            <h3 className="text-blue text-body">{s.title}</h3>
            {s.wrench && <Wrench table={s.wrench} />}
            <ul>
              {s.lines
                .filter((l) => !l.wrench)
                .map((l, i) => (
                  <li
                    key={i}
                    className="grid grid-cols-[1fr_110px_190px] max-[820px]:not-print:grid-cols-[1fr_100px] gap-x-3 text-note py-px"
                  >
                    <span className={l.struck ? "line-through text-quiet" : ""}>
                      {l.says}
                      {l.photo && (
                        <>
                          {" "}
                          <a href={`/api/v1/photos/${l.photo}`} target="_blank" rel="noreferrer">
                            see picture
                          </a>
                        </>
                      )}
                    </span>
                    <span>{l.verdict && !l.struck && <Verdict verdict={l.verdict} small />}</span>
                    <span className="text-quiet text-small text-right max-[820px]:not-print:hidden">
                      {l.by}, {moment(l.at)}
                    </span>
                  </li>
                ))}
            </ul>
          </div>
        ))}
    </section>
  );
}

/** What the wrench showed, a line a pass. */
function Wrench({ table: t }: { table: NonNullable<Record["stations"][number]["steps"][number]["wrench"]> }) {
  return (
    <div className="overflow-x-auto my-1" tabIndex={0} role="group" aria-label="Wrench readings">
      <table className="text-note">
        <thead>
          <tr className="text-quiet text-left">
            <th scope="col" className="font-normal pr-3">
              bolt
            </th>
            {t.bolts.map((b) => (
              <th key={b} scope="col" className="font-normal pr-3">
                {b}
              </th>
            ))}
            <th scope="col" className="font-normal">
              by
            </th>
          </tr>
        </thead>
        <tbody>
          {t.rows.map((row) => (
            <tr key={row.pass}>
              <th scope="row" className="font-normal text-left text-quiet pr-3 whitespace-nowrap">
                pass {row.pass}
              </th>
              {row.cells.map((c, i) => (
                <td
                  key={t.bolts[i]}
                  className={`font-mono whitespace-nowrap pr-3 ${c.verdict === "out" ? "text-out" : ""}`}
                >
                  {c.says}
                  {c.verdict === "out" && " out"}
                </td>
              ))}
              <td className="text-quiet text-small whitespace-nowrap">
                {row.by}, {moment(row.to)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
