import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useState } from "react";
import { type EntryView, type ItemView, liveAt, may, type StepOf } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { TakePhoto } from "../../parts/TakePhoto";
import { MarginSlot } from "../../parts/MarginSlot";
import { DiagnosisMeaning, type DiagnosisOut, type Foreseen } from "../../benches/diagnose/DiagnosisMeaning";
import type { StepProps } from "../props";
import { Before, ValueLine } from "./ValueLine";

type Props = StepProps<StepOf<"check"> | StepOf<"test">>;

/** What a test shows beyond its lines. */
const extrasOf = (view: Props["view"]) =>
  view.kind === "test"
    ? view
    : { beside: undefined, diagnosis: undefined, told: undefined, answered: undefined };

const live = (entries: EntryView[] | undefined, item: string) => entries && liveAt(entries, "outcome", item);

/** Lines to look at, each with its outcomes; for a drive card the card before stands beside. */
export function Lines(p: Props) {
  const { view } = p;
  const { shown, more } = inOrder(view);
  const { beside, diagnosis, told, answered } = extrasOf(view);
  const open = shown.filter((i) => !live(view.entries, i.id));
  // What may stay open is passed by, unless all may.
  const current = view.items.every((i) => i.optional) ? open[0] : open.find((i) => !i.optional);
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
          <span className="text-quiet">The customer: </span>
          {told}
          {answered && <span className="block text-quiet text-note">He was told: {answered}</span>}
        </p>
      )}
      {diagnosis && <InShort out={diagnosis} />}
      <div className="border border-ink mt-3.5">
        {beside && (
          <p className="grid grid-cols-[minmax(0,1fr)_minmax(0,150px)] px-4 py-1.5 border-b border-ink text-quiet text-small">
            <span>now</span>
            <span>before the work</span>
          </p>
        )}
        <ul>{shown.map(line)}</ul>
        {more.length > 0 && (
          <Disclosure as="div" className="border-t border-ink">
            <DisclosureButton
              name="more"
              className="w-full min-h-11 px-4 text-left text-quiet underline underline-offset-3"
            >
              {more.length === 1 ? "1 more test" : `${more.length} more tests`}
            </DisclosureButton>
            <DisclosurePanel as="ul" className="border-t border-hair">
              {more.map(line)}
            </DisclosurePanel>
          </Disclosure>
        )}
      </div>
      {diagnosis && (
        <MarginSlot>
          <DiagnosisMeaning out={diagnosis} ghost={ghost} />
        </MarginSlot>
      )}
    </>
  );
}

/** The first line that tells of a hazard, by its id: there it is told whole. */
function firstToldAt(items: ItemView[]) {
  const at = new Map<string, string>();
  for (const i of items) for (const c of i.cautions ?? []) if (!at.has(c.id)) at.set(c.id, i.id);
  return at;
}

type LineProps = Props & {
  item: ItemView;
  isCurrent: boolean;
  /** Every line that has to be is answered. */
  isRest: boolean;
  firstAt: Map<string, string>;
  onNear: (outcome: string | undefined) => void;
};

function Line(p: LineProps) {
  const { view, say, item, isCurrent, isRest, onNear } = p;
  const { beside } = extrasOf(view);
  const entry = live(view.entries, item.id);
  /** The answer picked that wants a reason first. */
  const [because, setBecause] = useState("");
  const took = entry?.body.minutes ? String(entry.body.minutes) : "";
  const [minutes, setMinutes] = useKept(`minutes.${view.step.id}.${item.id}`, took);
  const [photo, setPhoto] = useState(entry?.body.photo ?? "");
  const tested = view.kind === "test" && view.from_book === "tests";
  const answer = (outcome: string, note?: string) =>
    say(
      {
        act: "outcome",
        item: item.id,
        outcome,
        ...(note && { note }),
        ...(minutes.trim() && { minutes }),
        ...(photo && { photo }),
        ...(entry && { supersedes: entry.id }),
      },
      () => setBecause(""),
    );
  const unread = (item.cautions ?? []).filter((c) => c.grave && !c.by);
  /** What was answered before its hazard was read: it is said once that is. */
  const [held, setHeld] = useState("");
  const waits = unread.length > 0 ? held : ""; // somebody else may have read it
  const pick = (outcome: string) => {
    if (unread.length > 0) setHeld(outcome);
    else if (item.answers.some((a) => a.id === outcome && a.reason)) setBecause(outcome);
    else answer(outcome);
  };
  const read = (id: string) => {
    say({ act: "acknowledge", item: id });
    if (unread.some((c) => c.id !== id) || waits === "") return;
    setHeld("");
    if (item.answers.some((a) => a.id === held && a.reason)) setBecause(held);
    else answer(held);
  };
  return (
    <li
      data-current={isCurrent || undefined}
      className={`border-b border-hair last:border-b-0 ${isCurrent ? "border-l-5 border-l-blue bg-tint/50" : "border-l-5 border-l-transparent"}`}
    >
      <div
        className={`px-3.5 py-2.5 ${beside ? "grid grid-cols-[minmax(0,1fr)_minmax(0,150px)] max-[480px]:grid-cols-1 gap-3" : ""}`}
      >
        <fieldset name={item.id}>
          <legend className="text-line mb-1.5">{item.text}</legend>
          <Hazards {...p} held={waits !== ""} onRead={read} />
          {item.value && <ValueLine {...p} />}
          {item.answers.length > 0 && !(item.value && entry?.body.value) && (
            <div className="flex flex-wrap items-center gap-y-1.5">
              <Answers
                label={item.value ? `${item.text}: no figure` : item.text}
                answers={item.answers.map((a) => ({ ...a, good: a.good ?? false }))}
                chosen={because || waits || entry?.body.outcome}
                keyed={isCurrent && !item.value}
                onNear={entry ? undefined : onNear}
                onPick={pick}
              />
              {entry && (
                <span className="text-quiet text-small pl-3">
                  {entry.body.note && `${entry.body.note}, `}
                  {entry.body.minutes && `${entry.body.minutes} min, `}
                  {entry.by.name}
                </span>
              )}
            </div>
          )}
          {(isCurrent || entry) && (tested || item.picture) && (
            <div className="mt-1.5 flex flex-wrap gap-2 items-end text-small">
              {tested && (
                <Field
                  label="Minutes it took"
                  value={minutes}
                  onValue={setMinutes}
                  inputMode="numeric"
                  className="basis-[150px]"
                />
              )}
              {entry?.body.photo ? (
                <a href={`/api/v1/photos/${entry.body.photo}`} target="_blank" rel="noreferrer">
                  <img
                    src={`/api/v1/photos/${entry.body.photo}/preview`}
                    alt={`${item.text}, as it was seen`}
                    loading="lazy"
                    className="h-14 border border-hair"
                  />
                </a>
              ) : (
                <TakePhoto
                  rebuild={p.rebuild}
                  label={photo ? "Picture taken" : "Picture"}
                  onTaken={setPhoto}
                />
              )}
              {entry?.body.outcome && (minutes !== took || (photo && photo !== entry.body.photo)) && (
                <Button name="minutes" onClick={() => answer(entry.body.outcome ?? "", entry.body.note)}>
                  Put it beside
                </Button>
              )}
            </div>
          )}
          {because && (
            <Because label={`${item.text}: because`} takesHand onSay={(note) => answer(because, note)} />
          )}
          {!because && item.unsettled && entry && !entry.body.note && (
            <Because
              label="Where is it, and what next? Or why it may stay so"
              takesHand={isRest}
              onSay={(note) => answer(entry.body.outcome ?? "", note)}
            />
          )}
        </fieldset>
        {beside && <Before item={item} entry={live(beside, item.id)} />}
      </div>
    </li>
  );
}

type BecauseProps = { label: string; takesHand: boolean; onSay: (note: string) => void };

/**
 * Why there is no figure, or it was not tried, in words. The server's answer may
 * ask for it while the hand is at the next line already: then it waits its turn.
 */
function Because({ label, takesHand, onSay }: BecauseProps) {
  const [note, setNote] = useState("");
  return (
    <form
      className="mt-2 flex flex-wrap gap-2 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (note.trim()) onSay(note.trim());
      }}
    >
      <Field
        label={label}
        value={note}
        onValue={setNote}
        autoFocus={takesHand}
        data-hand
        className="grow basis-[220px]"
      />
      <Button type="submit" name="because" disabled={note.trim() === ""} hint="Enter">
        Put it down
      </Button>
    </form>
  );
}

/** What can happen at this line; grave ones are read by name before it is answered. */
type HazardProps = LineProps & { held: boolean; onRead: (id: string) => void };

function Hazards({ view, item, isCurrent, firstAt, held, onRead }: HazardProps) {
  const hazards = item.cautions ?? [];
  const mayRead = may(view, "acknowledge");
  const first = mayRead ? hazards.find((c) => c.grave && !c.by) : undefined;
  useKey(
    "acknowledge",
    `acknowledge: ${first?.title ?? ""}`,
    () => first && onRead(first.id),
    isCurrent && first !== undefined,
  );
  if (hazards.length === 0) return null;
  return (
    <ul className="mb-2 border-l-4 border-undecided pl-3 text-note">
      {hazards.map((c) => (
        <li key={c.id} className="py-0.5 flex flex-wrap items-center gap-x-3">
          <span className="grow basis-[260px]">
            <b className="text-undecided">{c.title}.</b>{" "}
            {(firstAt.get(c.id) === item.id || (c.grave && !c.by)) && c.text}
          </span>
          {c.by ? (
            <span className="text-quiet text-small">read by {c.by}</span>
          ) : (
            c.grave &&
            mayRead && (
              <Button
                name="acknowledge"
                value={c.id}
                {...(isCurrent && c.id === first?.id && { hint: "A" })}
                onClick={() => onRead(c.id)}
              >
                Read: {c.title}
              </Button>
            )
          )}
        </li>
      ))}
      {held && (
        <li role="status" className="py-0.5">
          Read this first: your answer goes down with it.
        </li>
      )}
    </ul>
  );
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
        ? `Enough is known: ${out.action}.`
        : next && `Next: ${next.says}, ${next.minutes} min.`}
    </p>
  );
}

/** Lines as the plan has them; of the book's tests those that tell most first, then what was done, and the rest folded away. */
function inOrder(view: Props["view"]): { shown: ItemView[]; more: ItemView[] } {
  const { items } = view;
  if (view.kind !== "test" || !view.diagnosis || view.from_book !== "tests")
    return { shown: items, more: [] };
  const next = view.diagnosis.next.map((t) => t.id);
  const done = items.filter((i) => live(view.entries, i.id));
  const open = items.filter((i) => !done.includes(i));
  const best = open
    .filter((i) => next.includes(i.id))
    .toSorted((a, b) => next.indexOf(a.id) - next.indexOf(b.id));
  return { shown: [...best, ...done], more: open.filter((i) => !best.includes(i)) };
}
