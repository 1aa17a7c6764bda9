import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { type ReactNode, useState } from "react";
import { DiagnosisMeaning, type DiagnosisOut, type Foreseen } from "../../benches/diagnose/DiagnosisMeaning";
import type { ItemView } from "../../model/types";
import { MarginSlot } from "../../parts/MarginSlot";
import { extrasOf, type LinesProps, live } from "./props";
import { Line } from "./Line";

type Props = LinesProps;

const beforeAndNow = "grid grid-cols-[minmax(0,1fr)_minmax(0,150px)]";

/** Lines to look at, each with its outcomes; for a drive card the card before stands beside. */
export function Lines(p: Props) {
  const { view } = p;
  const { shown, more } = inOrder(view);
  const { beside, diagnosis, told, answered } = extrasOf(view);
  const current = currentOf(view, shown);
  const firstAt = firstToldAt([...shown, ...more]);
  const [ghost, setGhost] = useState<Foreseen | undefined>();
  const near = (item: ItemView, outcome: string | undefined) => {
    const after = diagnosis?.next.find((n) => n.id === item.id)?.after;
    setGhost(after?.find((f) => f.outcome === outcome));
  };
  const line = (item: ItemView) => (
    <Line
      key={item.id}
      {...p}
      item={item}
      isCurrent={item.id === current?.id}
      isRest={current === undefined}
      firstAt={firstAt}
      onNear={(outcome) => near(item, outcome)}
    />
  );
  return (
    <>
      {told && (
        <p className="mt-3.5 border-l-4 border-hair pl-3 text-line">
          <span className="text-quiet">Customer says: </span>
          {told}
          {answered && <span className="block text-quiet text-note">He was told: {answered}</span>}
        </p>
      )}
      {diagnosis && <InShort out={diagnosis} />}
      <div className="border border-ink mt-3.5">
        {beside && (
          <p className={`${beforeAndNow} px-4 py-1.5 border-b border-ink text-quiet text-small`}>
            <span>now</span>
            <span>before the work</span>
          </p>
        )}
        <ul>{shown.map(line)}</ul>
        {more.length > 0 && <More n={more.length}>{more.map(line)}</More>}
      </div>
      {diagnosis && (
        <MarginSlot>
          <DiagnosisMeaning out={diagnosis} ghost={ghost} />
        </MarginSlot>
      )}
    </>
  );
}

/** The line where the hand is: what may stay open is passed by, unless all may. */
function currentOf(view: Props["view"], shown: ItemView[]) {
  const open = shown.filter((i) => !live(view.entries, i.id));
  return view.items.every((i) => i.optional) ? open[0] : open.find((i) => !i.optional);
}

/** Tests that tell less, folded away. */
const More = ({ n, children }: { n: number; children: ReactNode }) => (
  <Disclosure as="div" className="border-t border-ink">
    <DisclosureButton
      name="more"
      className="w-full min-h-11 px-4 text-left text-quiet underline underline-offset-3"
    >
      {n === 1 ? "1 more test" : `${n} more tests`}
    </DisclosureButton>
    <DisclosurePanel as="ul" className="border-t border-hair">
      {children}
    </DisclosurePanel>
  </Disclosure>
);

/** The first line that tells of a hazard, by its id: there it is told whole. */
function firstToldAt(items: ItemView[]) {
  const at = new Map<string, string>();
  for (const i of items) for (const c of i.cautions ?? []) if (!at.has(c.id)) at.set(c.id, i.id);
  return at;
}

/** Where the margin lies below the sheet: the leading cause and the next test, above the lines. */
function InShort({ out }: { out: DiagnosisOut }) {
  const first = out.causes[0];
  const next = out.next[0];
  if (out.clash || !first) return null;
  return (
    <p className="min-[1101px]:hidden mt-3 border-l-5 border-blue pl-3 text-body">
      <b>{first.says}</b>, {Math.round(100 * first.p)} %.{" "}
      {out.enough_is_known
        ? `You know enough: ${out.action}.`
        : next && `Next: ${next.says}, ${next.minutes} min.`}
    </p>
  );
}

/**
 * Lines as the plan has them; of the book's tests those that tell most first, then what was
 * done, and the rest folded away.
 */
function inOrder(view: Props["view"]): { shown: ItemView[]; more: ItemView[] } {
  const { items } = view;
  if (view.kind !== "test" || !view.diagnosis || view.from_book !== "tests")
    return { shown: items, more: [] };
  const next = view.diagnosis.next.map((t) => t.id);
  const done = items.filter((i) => live(view.entries, i.id) || i.known);
  const open = items.filter((i) => !done.includes(i));
  const best = open
    .filter((i) => next.includes(i.id))
    .toSorted((a, b) => next.indexOf(a.id) - next.indexOf(b.id));
  return { shown: [...best, ...done], more: open.filter((i) => !best.includes(i)) };
}
