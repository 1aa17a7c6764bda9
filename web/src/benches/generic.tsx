import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { inWords } from "../model/figures";
import { isQuantity } from "../model/quantity";
import { anyResult, type AnyResult } from "../model/results";
import type { Verdict as V } from "../model/types";
import { begun } from "../model/words";
import { Verdict, verdictOf } from "../parts/Verdict";
import { useWords } from "../data/calc";
import { Finding } from "../parts/Finding";
import type { Face } from "./bench";
import { Facts } from "../parts/Facts";

/** The result of any calculator: what most of them say, and figures of its own. */
type Result = AnyResult & {
  verdict?: V;
  says?: string;
  next?: unknown;
  findings?: (string | { says: string })[] | null;
};

/** What is shown apart, or says nothing to a person. */
const apart = new Set(["method", "source", "verdict", "says", "next", "findings", "coverage", "dof", "done"]);

/** What any calculator's answer means, drawn from the answer alone. */
export function Meaning({ out: any, units, step }: Pick<Face<string>, "units" | "step"> & { out: unknown }) {
  const out: Result | undefined = anyResult(any);
  const say = inWords(useWords(), units);
  if (!out) return null;
  const single = figuresOf(out).filter(
    ([, v]) => !Array.isArray(v) && (typeof v !== "object" || isQuantity(v)),
  );
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">{step?.preview ? "With this" : "Result"}</p>
        {out.says && <p className="text-head leading-snug font-semibold">{sentence(out.says)}</p>}
        {out.verdict && out.verdict !== "none" && (
          <p className="mt-2">
            <Verdict verdict={out.verdict} />
          </p>
        )}
        {typeof out.next === "string" && <p className="mt-2">{sentence(out.next)}</p>}
      </div>
      {out.findings?.map((f) => (
        <Finding key={findingOf(f)} says={findingOf(f)} />
      ))}
      {single.length > 0 && <Facts of={single.map(([k, v]) => [say.words(k), say.value(v)])} />}
      <Disclosure as="div" className="text-small text-quiet">
        <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">
          How this was worked out
        </DisclosureButton>
        <DisclosurePanel>
          <p>
            {out.method}: {out.source?.join("; ")}
          </p>
        </DisclosurePanel>
      </Disclosure>
    </>
  );
}

const figuresOf = (out: Result) =>
  Object.entries(out).filter(([k, v]) => !apart.has(k) && v !== null && v !== "none");

const findingOf = (f: string | { says: string }) => (typeof f === "string" ? f : f.says);

/** The lists of an answer, as tables on the sheet. */
export function Drawing({
  out: any,
  units,
  questions,
}: Pick<Face<string>, "units" | "questions"> & { out: unknown }) {
  const out = anyResult(any);
  const say = inWords(useWords(), units);
  return (
    <>
      {questions}
      {out &&
        figuresOf(out).map(([k, v]) => isRows(v) && <Table key={k} name={say.words(k)} rows={v} say={say} />)}
    </>
  );
}

const isRows = (v: unknown): v is Record<string, unknown>[] =>
  Array.isArray(v) && v.length > 0 && v.every((x) => typeof x === "object" && x !== null);

/** A table of a result's list, verdicts as shapes; what lies deeper is put into words. */
type TableProps = { name: string; rows: Record<string, unknown>[]; say: ReturnType<typeof inWords> };

function Table({ name, rows, say }: TableProps) {
  const columns = Object.keys(rows[0] ?? {}).filter(
    (k) => k !== "id" && k !== "can" && rows.some((r) => say.value(r[k]) !== ""),
  );
  return (
    <div className="overflow-x-auto mt-4 border border-ink" tabIndex={0} role="group" aria-label={name}>
      <table className="w-full text-note">
        <caption className="text-left text-quiet px-3 py-1.5 border-b border-ink">{name}</caption>
        <thead>
          <tr>
            {columns.map((k) => (
              <th key={k} scope="col" className="text-left font-normal text-quiet text-small px-3 py-1">
                {k === "says" ? <span className="sr-only">figure</span> : say.words(k)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r, i) => (
            <tr key={i} className="border-t border-hair align-top">
              {columns.map((k) => (
                <td key={k} className="py-1.5 px-3">
                  {k === "verdict" ? <Verdict verdict={verdictOf(r[k])} small /> : say.value(r[k])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const sentence = (s: string) => begun(s) + (/[.!?]$/.test(s) ? "" : ".");
