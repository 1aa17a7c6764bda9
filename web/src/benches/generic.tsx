import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { say } from "../model/quantity";
import { anyResult, type AnyResult } from "../model/results";
import type { Quantity, Units, Verdict as V } from "../model/types";
import { Verdict } from "../parts/Verdict";
import { Finding } from "../parts/Finding";
import type { BenchProps } from "./bench";

/** The result of any calculator: what most of them say, and figures of its own. */
type Result = AnyResult & { verdict?: V; says?: string; next?: unknown; findings?: (string | { says: string })[] | null };

/** What is shown apart, or says nothing to a person. */
const apart = new Set(["method", "source", "verdict", "says", "next", "findings", "coverage", "dof", "done"]);

/** What any calculator's answer means, drawn from the answer alone. */
export function Meaning({ out: any, units, preview }: Pick<BenchProps<string>, "units" | "preview"> & { out: unknown }) {
  const out: Result | undefined = anyResult(any);
  if (!out) return null;
  const single = figuresOf(out).filter(([, v]) => !Array.isArray(v) && (typeof v !== "object" || isQuantity(v)));
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-[14.5px]">{preview ? "With this it says" : "It says"}</p>
        {out.says && <p className="text-[19px] leading-snug font-semibold">{sentence(out.says)}</p>}
        {out.verdict && out.verdict !== "none" && <p className="mt-2"><Verdict verdict={out.verdict} /></p>}
        {typeof out.next === "string" && <p className="mt-2">{sentence(out.next)}</p>}
      </div>
      {out.findings?.map((f) => <Finding key={findingOf(f)} says={findingOf(f)} />)}
      {single.length > 0 && (
        <dl className="border-t-[1.2px] border-ink text-[15.5px]">
          {single.map(([k, v]) => (
            <div key={k} className="flex justify-between gap-3 border-b border-hair py-1"><dt className="text-quiet">{words(k)}</dt><dd className="font-mono text-right">{value(v, units)}</dd></div>
          ))}
        </dl>
      )}
      <Disclosure as="div" className="text-[14.5px] text-quiet">
        <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">Method and source</DisclosureButton>
        <DisclosurePanel><p>{out.method}: {out.source?.join("; ")}</p></DisclosurePanel>
      </Disclosure>
    </>
  );
}

const figuresOf = (out: Result) => Object.entries(out).filter(([k, v]) => !apart.has(k) && v !== null && v !== "none");

const findingOf = (f: string | { says: string }) => (typeof f === "string" ? f : f.says);

/** The lists of an answer, as tables on the sheet. */
export function Drawing({ out: any, units, questions }: Pick<BenchProps<string>, "units" | "questions"> & { out: unknown }) {
  const out = anyResult(any);
  return (
    <>
      {questions}
      {out && figuresOf(out).map(([k, v]) => isRows(v) && <Table key={k} name={words(k)} rows={v} units={units} />)}
    </>
  );
}

const isRows = (v: unknown): v is Record<string, unknown>[] => Array.isArray(v) && v.length > 0 && v.every((x) => typeof x === "object" && x !== null);

/** A table of a result's list, verdicts as shapes; what lies deeper is put into words. */
function Table({ name, rows, units }: { name: string; rows: Record<string, unknown>[]; units: Units }) {
  const columns = Object.keys(rows[0] ?? {}).filter((k) => k !== "id" && k !== "can" && rows.some((r) => value(r[k], units) !== ""));
  return (
    <div className="overflow-x-auto mt-4 border-[1.2px] border-ink" tabIndex={0} role="group" aria-label={name}>
      <table className="w-full text-[15.5px]">
        <caption className="text-left text-quiet px-3 py-1.5 border-b-[1.2px] border-ink">{name}</caption>
        <thead><tr>{columns.map((k) => <th key={k} scope="col" className="text-left font-normal text-quiet text-[14px] px-3 py-1">{k === "says" ? "" : words(k)}</th>)}</tr></thead>
        <tbody>
          {rows.map((r, i) => (
            <tr key={i} className="border-t border-hair align-top">{columns.map((k) => <td key={k} className="py-1.5 px-3">{k === "verdict" ? <Verdict verdict={r[k] as V} small /> : value(r[k], units)}</td>)}</tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const isQuantity = (v: unknown): v is Quantity => typeof v === "object" && v !== null && "value" in v && "unit" in v;

/** Keys of the catalogue that a shop would say otherwise. */
const said: Record<string, string> = {
  tir: "total runout", nominal: "what a sound one would show", singles: "single failures", doubles: "pairs", cost_mean: "cost, mean", cost_p10: "one in ten below", cost_p50: "half below", cost_p90: "nine in ten below",
  days_p50: "days, half", days_p80: "days to promise", cheapest_share: "cheapest in", chance_on_time: "chance on time", k: "per mm of move", u: "uncertainty", u_a: "from spread", u_res: "from the scale", u_mpe: "from the gauge", s: "spread",
};

const words = (key: string) => said[key] ?? key.replaceAll("_", " ");

const sentence = (s: string) => s.charAt(0).toUpperCase() + s.slice(1) + (/[.!?]$/.test(s) ? "" : ".");

function value(v: unknown, units: Units): string {
  if (isQuantity(v)) return say(v, units, 1);
  if (typeof v === "number") return (Number.isInteger(v) ? String(v) : Math.abs(v) >= 100 ? Math.round(v).toString() : v.toPrecision(3)).replace("-", "−");
  if (typeof v === "boolean") return v ? "yes" : "no";
  if (Array.isArray(v)) return v.map((x) => value(x, units)).join("; ");
  if (typeof v === "object" && v !== null) return Object.entries(v).filter(([, x]) => x !== undefined && x !== null).map(([k, x]) => (k === "size" || k === "says" ? value(x, units) : `${words(k)} ${value(x, units)}`)).join(", ");
  return v === undefined || v === null ? "" : String(v);
}
