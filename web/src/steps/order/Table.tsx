import { Fragment, type ReactNode } from "react";
import { money } from "../../model/costs";
import { bought, isOpen, type PartLine, type PartsGroup } from "../../model/parts";
import { VerdictShape } from "../../parts/Verdict";
import { several } from "../../model/several";

type Props = {
  groups: readonly PartsGroup[];
  at: string | undefined;
  onPick: (line: string) => void;
  /** Where the line that is touched is worked at. */
  children: ReactNode;
};

const widths = ["21%", "18.5%", "8.5%", "13.5%", "12.5%", "11%", "auto"];
const columns = ["part", "why", "pcs", "from", "compared with old", "state", "due"];

/** What has to come, kit by kit and then what no kit brings. */
export function Table({ groups, at, onPick, children }: Props) {
  const lines = bought(groups);
  const next = (lines.find(isOpen) ?? lines.find((l) => l.state === "ordered"))?.line;
  return (
    <div
      className="mt-3.5 border border-ink overflow-x-auto"
      tabIndex={0}
      role="group"
      aria-label="Parts list"
    >
      <table className="w-full min-w-[640px] table-fixed border-collapse text-note">
        <colgroup>
          {widths.map((w) => (
            <col key={w} style={{ width: w }} />
          ))}
        </colgroup>
        <caption className="sr-only">Parts list</caption>
        <thead>
          <tr className="text-left text-quiet">
            {columns.map((c) => (
              <th key={c} scope="col" className="font-normal px-2 py-1">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {groups.map((g) => (
            <Fragment key={g.title}>
              <tr className="bg-paper border-y border-ink">
                <th colSpan={7} scope="colgroup" className="text-left font-semibold px-2 py-1">
                  {g.title}
                </th>
              </tr>
              {g.lines.map((l) => (
                <Fragment key={l.line}>
                  <Row
                    line={l}
                    kit={l.line === g.kit}
                    now={l.line === at}
                    next={l.line === next}
                    onPick={onPick}
                  />
                  {l.line === at && (
                    <tr>
                      <td colSpan={7} className="shadow-[inset_5px_0_0_var(--blue)] bg-tint/50 p-3 pl-4">
                        {children}
                      </td>
                    </tr>
                  )}
                </Fragment>
              ))}
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowProps = { line: PartLine; kit: boolean; now: boolean; next: boolean; onPick: (line: string) => void };

function Row({ line: l, kit, now, next, onPick }: RowProps) {
  const dim = l.state === "not-needed";
  return (
    <tr
      data-line={l.line}
      data-state={l.state}
      data-current={next || undefined}
      className={`border-t border-hair align-top ${now ? "bg-tint/50" : ""} ${dim ? "text-quiet" : ""}`}
    >
      <td className="px-2">
        <button
          type="button"
          aria-expanded={now}
          className={`min-h-11 text-left underline underline-offset-3 decoration-hair ${now ? "text-blue" : ""} ${now || kit ? "font-semibold" : ""}`}
          onClick={() => onPick(l.line)}
        >
          {l.name}
        </button>
      </td>
      <td className="px-2 py-2.5 text-quiet">{l.why}</td>
      <td className="px-2 py-2.5 font-mono">
        {l.pieces}
        {l.packs && <span className="block text-quiet text-small">{l.packs}</span>}
      </td>
      <From line={l} />
      <td className="px-2 py-2.5">
        <Against line={l} />
      </td>
      <td className="px-2 py-2.5">
        {l.state_says}
        {l.reason && <span className="block text-quiet">{l.reason}</span>}
      </td>
      <td className="px-1 py-2.5 font-mono text-small whitespace-nowrap">
        {l.state === "here" || l.state === "fitted" ? "here" : when(l)}
      </td>
    </tr>
  );
}

/** From whom, for how much. */
const From = ({ line: l }: { line: PartLine }) => (
  <td className="px-2 py-2.5">
    {l.in ? "in the kit" : l.supplier}
    {l.price != null && <span className="block font-mono">{money(l.price)}</span>}
    {l.deposit != null && <span className="block text-quiet">deposit {l.deposit}</span>}
  </td>
);

function when(l: PartLine) {
  if (l.state === "ordered") return l.due || "no date";
  if (l.lead_days == null || l.state === "not-needed") return "";
  return several(l.lead_days, "day");
}

function Against({ line: l }: { line: PartLine }) {
  if (l.compared.length === 0) return null;
  return (
    <span className={`flex gap-1.5 items-baseline ${l.differs ? "text-out font-semibold" : "text-in"}`}>
      <VerdictShape verdict={l.differs ? "out" : "in"} size={11} />
      {l.differs || "same"}
    </span>
  );
}
