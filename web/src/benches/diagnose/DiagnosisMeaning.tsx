import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import type { ResultOf } from "../../model/results";

export type DiagnosisOut = ResultOf<"diagnose">;

/** What the tests say so far: likely causes, for and against, the next test worth its minutes. */
export function DiagnosisMeaning({ out }: { out: DiagnosisOut }) {
  const causes = out.causes.slice(0, 5);
  const first = causes[0];
  const next = out.next[0];
  if (out.clash)
    return (
      <p role="status" className="border border-out border-l-6 p-2.5">
        <b className="text-out">They do not fit together.</b> {out.clash.says}.
      </p>
    );
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">Likely causes</p>
        <ol className="mt-1">
          {causes.map((c) => (
            <li key={c.id} className="py-1 border-b border-hair">
              <span className="flex justify-between gap-3">
                <span className={c === first ? "font-semibold" : ""}>{c.says}</span>
                <span className="font-mono whitespace-nowrap">{Math.round(100 * c.p)} %</span>
              </span>
              <span
                className="block h-[5px] mt-0.5 bg-ink"
                style={{ width: `${Math.max(1, 100 * c.p)}%` }}
                aria-hidden="true"
              />
            </li>
          ))}
        </ol>
      </div>
      <div className="border-t border-ink pt-3">
        {out.enough_is_known ? (
          <p>
            <b>Enough is known.</b> {out.action}. No test left would change that.
          </p>
        ) : next ? (
          <>
            <h3 className="text-head">Next test</h3>
            <p>{next.says}</p>
            {next.would_settle && <p className="text-note">{`“${next.would_settle}” would settle it.`}</p>}
            <p className="text-quiet text-small">
              {next.minutes} min{next.tools?.length ? `, ${next.tools.join(", ")}` : ""}; tells{" "}
              {next.bits.toFixed(2)} bit
            </p>
          </>
        ) : null}
        {!out.enough_is_known && !next && (
          <p>
            <b>No test is left that can be done now.</b> Look with the unit open before you order.
          </p>
        )}
        {!out.enough_is_known && out.action && (
          <p className="text-quiet text-note mt-2">
            As it stands: {out.action} ({Math.round(100 * out.action_p)} %).
          </p>
        )}
      </div>
      {first && (first.for.length > 0 || first.against.length > 0) && (
        <Disclosure as="div" className="text-small text-quiet">
          <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">
            What spoke for and against
          </DisclosureButton>
          <DisclosurePanel>
            {causes.slice(0, 3).map((c) => (
              <p key={c.id} className="mb-1.5">
                <b>{c.says}.</b> {c.for.length > 0 && `For: ${c.for.join("; ")}. `}
                {c.against.length > 0 && `Against: ${c.against.join("; ")}.`}
              </p>
            ))}
          </DisclosurePanel>
        </Disclosure>
      )}
      <p className="text-quiet text-small">
        Chances are judgement; {Math.round(100 * out.share_of_own_experience)} % of the weights are this
        shop's own confirmed cases.
      </p>
    </>
  );
}
