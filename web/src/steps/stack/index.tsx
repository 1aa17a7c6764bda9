import { type ReactNode, useState } from "react";
import { said } from "../../model/json";
import { useKeepStack } from "../../data/rebuilds";
import { isDone, subsOf } from "../../parts/drawn/shafts";
import { nowhere } from "../../model/trays";
import type { Body, StackPart } from "../../model/types";
import { Button } from "../../parts/Button";
import { useSession } from "../../data/session";
import { Fault } from "../../parts/Fault";
import { Frame } from "../../parts/Frame";
import { LeftBehind } from "../../parts/kept";
import type { PropsOf } from "../props";
import { type PartProps, standing, type Work } from "./acts";
import { FitPart } from "./FitPart";
import { FoundPart } from "./FoundPart";
import { InspectPart } from "./InspectPart";
import { PartList } from "./PartList";
import { RemovePart } from "./RemovePart";
import { ShaftRow } from "./ShaftRow";
import { TrayBoxes } from "./TrayBoxes";

const inOrder = "in removal order, front at the left";
const drawn: Record<Work, string> = {
  remove: inOrder,
  inspect: inOrder,
  fit: "as they go on, from the right",
};
const doneWord: Record<Work, string> = { remove: "off", inspect: "inspected", fit: "in" };

/** A lead keeps the parts as they came off: the family's next unit is taken apart by them. */
function KeepStack({ rebuild, step }: { rebuild: string; step: string }) {
  const leads = useSession().data?.person.role === "lead";
  const keep = useKeepStack(rebuild);
  if (!leads) return null;
  return (
    <div className="mt-3.5 flex flex-wrap gap-3 items-center">
      <Button name="keep-stack" disabled={keep.isPending || keep.isSuccess} onClick={() => keep.mutate(step)}>
        Save to spec sheet
      </Button>
      {keep.data && (
        <p role="status" className="text-in">
          Saved, sheet version {keep.data.sheet.version}
        </p>
      )}
      <Fault error={keep.error} />
    </div>
  );
}

type Props = PropsOf<"stack">;

/** A stack of parts on their shafts: taken off, looked at, put back in reverse. */
export default function StackStep(p: Props) {
  const { view } = p;
  const { work, stack: parts } = view;
  const order = work === "fit" ? parts.toReversed() : parts;
  const hand = useHand(p, order);
  const { part, pick } = hand;
  return (
    <>
      {view.usual && <Usual />}
      <Shafts {...p} current={part?.id} onPick={pick} />
      {work !== "inspect" && <TrayBoxes rebuild={p.rebuild} parts={parts} current={part?.id} />}
      {part && (
        <PartBench
          key={`${part.id}.${hand.correcting}`}
          {...p}
          say={hand.say}
          part={part}
          correcting={hand.correcting}
        />
      )}
      {hand.correcting && (
        <Button look="quiet" className="mt-2.5" onClick={hand.leave}>
          Cancel
        </Button>
      )}
      <LeftBehind
        place={`${view.step.id}.part`}
        name={(at) => parts.find((x) => x.id === at && x.id !== part?.id && isDone(work, x))?.name}
        onGo={pick}
      />
      <PartList
        parts={order}
        numbers={new Map(parts.map((x, i) => [x.id, i + 1]))}
        work={work}
        current={part?.id}
        onPick={work === "fit" ? undefined : pick}
        onCorrect={pick}
      />
      {work === "remove" && (
        <>
          <FoundPart {...p} />
          {parts.every((x) => isDone(work, x)) && <AllOff {...p} />}
        </>
      )}
    </>
  );
}

const Usual = () => (
  <p className="mt-3 border border-hair border-l-6 px-4 py-2.5">
    Nobody here took one of this family apart yet: these are the parts such a unit usually has. Say of each
    what is there; add what is not listed.
  </p>
);

/** The part where the hand is: the next, one that was touched, or one that is corrected. */
function useHand({ view, say }: Props, order: StackPart[]) {
  const { work } = view;
  const [picked, setPicked] = useState("");
  const [touched, setTouched] = useState("");
  const old = touched ? standing(view.entries, work, touched) : undefined;
  const open = order.filter((x) => !isDone(work, x));
  const mayChoose = work !== "fit"; // parts go back in their order
  const next = (mayChoose && open.find((x) => x.id === picked)) || open[0];
  return {
    part: (old && order.find((x) => x.id === touched)) ?? next,
    correcting: old !== undefined,
    /** A part that is done is touched to correct it, another to do it next. */
    pick: (id: string) => {
      setTouched(standing(view.entries, work, id) ? id : "");
      setPicked(id);
    },
    leave: () => setTouched(""),
    say: ((d, then) =>
      say({ ...d, ...(old && { supersedes: old.id }) }, () => {
        setTouched("");
        then?.();
      })) satisfies Props["say"],
  };
}

const benches: Record<Work, (p: PartProps) => ReactNode> = {
  remove: RemovePart,
  inspect: InspectPart,
  fit: FitPart,
};

const PartBench = (p: PartProps) => {
  const Bench = benches[p.view.work];
  return <Bench {...p} />;
};

type ShaftsProps = Props & { current: string | undefined; onPick: (id: string) => void };

/** The parts along their shafts, with what the marks mean and the sub-assemblies that fold. */
function Shafts({ view, say, current, onPick }: ShaftsProps) {
  const { work, stack: parts } = view;
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const fold = (sub: string) =>
    setFolded(new Set(folded.has(sub) ? [...folded].filter((x) => x !== sub) : [...folded, sub]));
  const move = (id: string, behind: string) => {
    const entry = standing(view.entries, work, id);
    if (entry) say({ ...again(entry.body), act: "removed", item: id, behind, supersedes: entry.id });
  };
  return (
    <>
      <Frame label="Parts along the shaft">
        <ShaftRow
          parts={parts}
          work={work}
          current={current}
          folded={folded}
          onPick={onPick}
          onFold={fold}
          onMove={work === "remove" ? move : undefined}
        />
      </Frame>
      <div className={`flex flex-wrap gap-x-3 gap-y-1 items-center px-3 py-1.5 ${underFrame}`}>
        <span className="grow basis-[300px]">
          <b className="font-semibold text-ink">
            {parts.filter((x) => isDone(work, x)).length} of {parts.length} {doneWord[work]}
          </b>
          , {drawn[work]}. {legend[work]}
        </span>
        {subsOf(parts).map((sub) => (
          <button
            key={sub}
            type="button"
            data-look="quiet"
            aria-pressed={folded.has(sub)}
            className="min-h-11 px-3 border border-hair text-ink"
            onClick={() => fold(sub)}
          >
            {folded.has(sub) ? `Open ${sub}` : `Fold ${sub}`}
          </button>
        ))}
      </div>
    </>
  );
}

/** All parts are off: where do they lie, and shall the family keep the list? */
function AllOff({ rebuild, view }: Props) {
  const lost = nowhere(view.stack);
  return (
    <>
      {lost.length > 0 && (
        <p role="status" className="mt-3 border border-undecided border-l-6 px-3 py-2">
          <b className="text-undecided">No tray recorded for:</b> {lost.map((x) => x.name).join(", ")}. Touch
          each one and type its tray before you clear the bench.
        </p>
      )}
      <KeepStack rebuild={rebuild} step={view.step.id} />
    </>
  );
}

/** What was said of a part when it came off, to be said again with its new place. */
const again = ({ outcome, name, faces, tray, mark, typed, bolts, damage, shaft, photo }: Body) =>
  said({ outcome, name, faces, tray, mark, value: typed, bolts, damage, shaft, photo });

const underFrame = "border border-t-0 border-ink text-small text-quiet";

const legend: Record<Work, string> = {
  remove: [
    "The arrow shows which way the part faces; front is on the left.",
    "Two arrows: in or out. L, R: to that side. Dash: either way.",
    "Dashed outline: still on. Drag a part to where it was.",
  ].join(" "),
  inspect: "Cross: replace. File mark: rework. Gap: missing.",
  fit: "Filled: fitted. Blue: next.",
};
