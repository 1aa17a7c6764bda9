import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { say } from "../../api/quantity";
import type { Quantity, Unit, Verdict as V } from "../../api/types";
import { Verdict } from "../../parts/Verdict";
import { DiagnosisMeaning, type DiagnosisOut } from "../diagnosis/DiagnosisMeaning";

/** A calculator's result: what it says, its verdict, and figures of its own. */
export type Result = { method?: string; source?: string[]; verdict?: V; says?: string; next?: unknown; findings?: { says: string }[] | null } & Record<string, unknown>;

const set = new Set(["method", "source", "verdict", "says", "next", "findings", "confidence", "coverage", "dof", "done"]);

type Units = readonly Unit[] | undefined;

/** What any calculator's answer means, drawn from the answer alone. */
export function Meaning({ out, units, preview }: { out: Result; units: Units; preview: boolean }) {
  if (out.method?.startsWith("diagnose/")) return <DiagnosisMeaning out={out as unknown as DiagnosisOut} />;
  const figures = Object.entries(out).filter(([k, v]) => !set.has(k) && v !== null);
  const single = figures.filter(([, v]) => !Array.isArray(v) && (typeof v !== "object" || isQuantity(v)));
  const lists = figures.filter(([, v]) => Array.isArray(v) && v.length > 0 && typeof v[0] === "object") as [string, Record<string, unknown>[]][];
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-[14.5px]">{preview ? "With this it says" : "It says"}</p>
        {out.says && <p className="text-[19px] leading-snug font-semibold">{sentence(out.says)}</p>}
        {out.verdict && out.verdict !== "none" && <p className="mt-2"><Verdict verdict={out.verdict} /></p>}
        {typeof out.next === "string" && <p className="mt-2">{sentence(out.next)}</p>}
      </div>
      {out.findings?.map((f) => (
        <div key={f.says} className="border-[1.2px] border-undecided border-l-[6px] p-2.5 text-[15.5px]"><b className="text-undecided">Finding:</b> {f.says}.</div>
      ))}
      {single.length > 0 && (
        <dl className="border-t-[1.2px] border-ink text-[15.5px]">
          {single.slice(0, 9).map(([k, v]) => (
            <div key={k} className="flex justify-between gap-3 border-b border-hair py-1"><dt className="text-quiet">{words(k)}</dt><dd className="font-mono text-right">{value(v, units)}</dd></div>
          ))}
        </dl>
      )}
      {lists.slice(0, 2).map(([k, rows]) => <Table key={k} name={words(k)} rows={rows} units={units} />)}
      <Disclosure as="div" className="text-[14.5px] text-quiet">
        <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">Method and source</DisclosureButton>
        <DisclosurePanel><p>{out.method}: {out.source?.join("; ")}</p></DisclosurePanel>
      </Disclosure>
    </>
  );
}

/** A short table of a result's list: its plain columns, verdicts as shapes. */
function Table({ name, rows, units }: { name: string; rows: Record<string, unknown>[]; units: Units }) {
  const columns = Object.keys(rows[0] ?? {}).filter((k) => !["id", "reasons", "limited_by"].includes(k) && plain(rows[0]?.[k])).slice(0, 4);
  const titles = columns.filter((k) => k !== "verdict");
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={name}>
      <table className="w-full text-[14.5px] border-t-[1.2px] border-ink">
        <caption className="text-left text-quiet py-1">{name}</caption>
        <thead><tr>{titles.map((k) => <th key={k} scope="col" className="text-left font-normal text-quiet pr-2">{words(k)}</th>)}</tr></thead>
        <tbody>
          {rows.slice(0, 6).map((r, i) => (
            <tr key={i} className="border-t border-hair align-top">{titles.map((k) => <td key={k} className="py-1 pr-2">{value(r[k], units)}</td>)}</tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const isQuantity = (v: unknown): v is Quantity => typeof v === "object" && v !== null && "value" in v && "unit" in v;

const plain = (v: unknown) => typeof v !== "object" || isQuantity(v);

const words = (key: string) => key.replaceAll("_", " ");

const sentence = (s: string) => s.charAt(0).toUpperCase() + s.slice(1) + (/[.!?]$/.test(s) ? "" : ".");

function value(v: unknown, units: Units): string {
  if (isQuantity(v)) return say(v, units, 1);
  if (typeof v === "number") return Number.isInteger(v) ? String(v) : v.toPrecision(3).replace("-", "−");
  if (typeof v === "boolean") return v ? "yes" : "no";
  return v === undefined || v === null ? "" : String(v);
}
