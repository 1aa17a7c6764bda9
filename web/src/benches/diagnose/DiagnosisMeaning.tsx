import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import type { ResultOf } from "../../model/results";

export type DiagnosisOut = ResultOf<"diagnose">;

export type Foreseen = DiagnosisOut["next"][number]["after"][number];

type Props = {
  out: DiagnosisOut;
  /** What would be believed after the answer where the hand is. */
  ghost?: Foreseen | undefined;
};

/** What the tests say so far: likely causes, for and against, the next test worth its minutes. */
export function DiagnosisMeaning({ out, ghost }: Props) {
  const causes = out.causes.slice(0, 5);
  if (out.clash)
    return (
      <p role="status" className="border border-out border-l-6 p-2.5">
        <b className="text-out">These answers contradict each other.</b> {out.clash.says}.
      </p>
    );
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">Likely causes</p>
        <ol className="mt-1">
          {causes.map((c, i) => (
            <CauseBar key={c.id} cause={c} first={i === 0} ghost={ghost} />
          ))}
        </ol>
      </div>
      {ghost && (
        <p className="text-blue text-note" role="status">
          This answer comes up in about {Math.round(100 * ghost.chance)} of 100 cases. It would point to:{" "}
          {thenWords(out, ghost)}
        </p>
      )}
      <div className="border-t border-ink pt-3">
        <Onward out={out} />
        {!out.enough_is_known && out.action && (
          <p className="text-quiet text-note mt-2">
            So far: {out.action} ({Math.round(100 * out.action_p)} %).
          </p>
        )}
      </div>
      <ForAndAgainst causes={causes} />
      <p className="text-quiet text-small">
        The percentages are judgement.{" "}
        {out.share_of_own_experience > 0
          ? `${Math.round(100 * out.share_of_own_experience)} % of it comes from this shop's confirmed cases.`
          : "None of it is from this shop yet."}
      </p>
    </>
  );
}

type Cause = DiagnosisOut["causes"][number];

/** A cause with its chance as a bar, and the chance it would have then. */
const CauseBar = ({ cause: c, first, ghost }: { cause: Cause; first: boolean; ghost: Props["ghost"] }) => (
  <li className="py-1 border-b border-hair">
    <span className="flex justify-between gap-3">
      <span className={first ? "font-semibold" : ""}>{c.says}</span>
      <span className="font-mono whitespace-nowrap">
        {Math.round(100 * c.p)} %{ghost && <span className="text-blue"> → {thenOf(ghost, c.id)}</span>}
      </span>
    </span>
    <span className="block relative h-[7px] mt-0.5" aria-hidden="true">
      <span className="absolute inset-y-px left-0 bg-ink" style={{ width: `${Math.max(1, 100 * c.p)}%` }} />
      {ghost && (
        <span
          className="absolute inset-y-0 left-0 border border-dashed border-blue bg-tint/60"
          style={{ width: `${Math.max(1, 100 * (chanceOf(ghost, c.id) ?? 0))}%` }}
        />
      )}
    </span>
  </li>
);

/** Enough is known, the next test worth its minutes, or none is left. */
function Onward({ out }: { out: DiagnosisOut }) {
  const next = out.next[0];
  if (out.enough_is_known)
    return (
      <p>
        <b>You know enough.</b> {out.action}. No other test would change that.
      </p>
    );
  if (!next)
    return (
      <p>
        <b>No useful test left for now.</b> Open the unit and look before you order.
      </p>
    );
  return (
    <>
      <h3 className="text-head">Next test</h3>
      <p>{next.says}</p>
      {next.would_settle && <p className="text-note">{`“${next.would_settle}” would decide it.`}</p>}
      <p className="text-quiet text-small">
        {next.minutes} min{next.tools?.length ? `, ${next.tools.join(", ")}` : ""}
      </p>
    </>
  );
}

function ForAndAgainst({ causes }: { causes: readonly Cause[] }) {
  const first = causes[0];
  if (!first || (first.for.length === 0 && first.against.length === 0)) return null;
  return (
    <Disclosure as="div" className="text-small text-quiet">
      <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">
        For and against
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
  );
}

const chanceOf = (f: Foreseen, cause: string) => f.causes.find((c) => c.id === cause)?.p;

/** A cause that is not among the likeliest then has less than the last of them. */
function thenOf(f: Foreseen, cause: string): string {
  const p = chanceOf(f, cause);
  return p === undefined ? "less" : `${Math.round(100 * p)}`;
}

function thenWords(out: DiagnosisOut, f: Foreseen): string {
  const lead = f.causes[0];
  const name = out.causes.find((c) => c.id === lead?.id)?.says ?? "";
  const order = f.action === out.action ? "" : `; the job becomes: ${f.action}`;
  return lead ? `${name}, ${Math.round(100 * lead.p)} %${order}.` : "no cause would fit.";
}
