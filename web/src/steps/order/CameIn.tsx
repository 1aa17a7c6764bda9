import { useState } from "react";
import { pairsOf } from "../../model/parts";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { LineProps } from "./LineBench";

type Pair = ReturnType<typeof pairsOf>[number];

/** What came in, held against the old part or what was agreed: it fits, is made to fit, or goes back. */
export function CameIn(p: LineProps) {
  const { line: l, view } = p;
  const said = useArrival(p);
  const { pairs, setPairs, came } = said;
  const here = l.state === "here";
  const out = l.kind === "sent-out";
  useKey("act", "it has arrived and fits", () => came("fits"), !said.half && !here);
  return (
    <div className="flex flex-col gap-2">
      {!here && <Pairs pairs={pairs} out={out} onPairs={setPairs} />}
      <div className="flex flex-wrap gap-2 items-end">
        {!here && (
          <>
            <OneMore
              taken={pairs.map((c) => c.what)}
              known={view.compare}
              onAdd={(what) => setPairs([...pairs, { what, old: "", new: "" }])}
            />
            <Button
              name="came"
              value="fits"
              look="go"
              hint="F"
              disabled={said.half}
              onClick={() => came("fits")}
            >
              {out ? "Back, as agreed" : "Arrived, fits"}
            </Button>
          </>
        )}
        <NotRight said={said} here={here} />
        {here && l.old_open && (
          <Button name="came" value="deposit-back" onClick={() => came("deposit-back")}>
            Old unit, deposit back
          </Button>
        )}
      </div>
    </div>
  );
}

type Outcome = "fits" | "rework" | "back" | "deposit-back";

/** What is being said of what came: the pairs held against each other, and what is not right. */
function useArrival({ line: l, view, say, onDone }: LineProps) {
  const [pairs, setPairs] = useState<Pair[]>(() => pairsOf(l));
  const [reason, setReason] = useKept(`${view.step.id}.came/${l.line}`);
  const compared = pairs.filter((c) => c.old.trim() && c.new.trim());
  const came = (outcome: Outcome) => {
    const line = {
      line: l.line,
      outcome,
      ...(reason.trim() && { reason }),
      ...(outcome !== "deposit-back" && compared.length > 0 && { compared }),
    };
    say({ act: "came", lines: [line] }, () => {
      setReason("");
      onDone();
    });
  };
  return {
    pairs,
    setPairs,
    reason,
    setReason,
    came,
    half: pairs.some((c) => (c.old.trim() === "") !== (c.new.trim() === "")),
    // What was agreed has to be measured before it fits, not before it goes back.
    unsaid: pairs.some((c) => c.old.trim() === "" && c.new.trim() !== ""),
  };
}

type PairsProps = { pairs: readonly Pair[]; out: boolean; onPairs: (p: Pair[]) => void };

function Pairs({ pairs, out, onPairs }: PairsProps) {
  const set = (i: number, more: Partial<Pair>) =>
    onPairs(pairs.map((c, k) => (k === i ? { ...c, ...more } : c)));
  return (
    <ul className="flex flex-col gap-1.5">
      {pairs.map((c, i) => (
        <li key={i} className="flex flex-wrap gap-2 items-end">
          <span className="basis-[150px] min-h-11 flex items-center font-semibold">{c.what}</span>
          <Field
            label={`${c.what}, ${out ? "agreed" : "old"}`}
            value={c.old}
            onValue={(old) => set(i, { old })}
            className="basis-[130px]"
          />
          <Field
            label={`${c.what}, ${out ? "as it came" : "new"}`}
            value={c.new}
            onValue={(fresh) => set(i, { new: fresh })}
            className="basis-[130px]"
          />
        </li>
      ))}
    </ul>
  );
}

/** What is wrong with it, and what becomes of it. */
function NotRight({ said, here }: { said: ReturnType<typeof useArrival>; here: boolean }) {
  const open = said.unsaid || said.reason.trim() === "";
  return (
    <>
      <Field
        label="What is wrong with it?"
        value={said.reason}
        onValue={said.setReason}
        className="grow basis-[190px]"
      />
      <Button name="came" value="back" disabled={open} onClick={() => said.came("back")}>
        Send back
      </Button>
      {!here && (
        <Button name="came" value="rework" disabled={open} onClick={() => said.came("rework")}>
          Rework it here
        </Button>
      )}
    </>
  );
}

type OneMoreProps = { taken: string[]; known: readonly string[]; onAdd: (what: string) => void };

/** One more interface to hold against the old part, of those that commonly differ or in words of one's own. */
function OneMore({ taken, known, onAdd }: OneMoreProps) {
  return (
    <select
      aria-label="Compare more else with the old part"
      value=""
      onChange={(e) => onAdd(e.target.value)}
      className="min-h-11 px-3 border border-hair bg-field max-w-[190px]"
    >
      <option value="">Compare more</option>
      {known
        .filter((w) => !taken.includes(w))
        .map((w) => (
          <option key={w} value={w}>
            {w}
          </option>
        ))}
    </select>
  );
}
