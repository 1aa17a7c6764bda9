import { useState } from "react";
import type { InputOf, ResultOf } from "../../model/results";
import { boundNamed, bounds, boundText, ownWay, ranges, type Way, withBound } from "../../model/ways";
import { Button } from "../../parts/Button";
import { useCalculator } from "../../data/calc";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Frame } from "../../parts/Frame";
import { bench, type Face, mayAt } from "../bench";
import { Bars } from "./Bars";

type Props = Face<"decide">;
type Out = ResultOf<"decide">;

/** The ways side by side; touch one to see what it rests on, and what if. */
function Drawing({ title, out, input, step, questions }: Props) {
  const [at, setAt] = useState<string | undefined>();
  const { edited, setEdited, begun, what, back } = useWhatIf(input);
  const shown = edited && what.data ? what.data : out;
  const ways = edited ?? input.options ?? [];
  if (!shown) return null;
  return (
    <>
      <Frame label={title}>
        <Bars
          options={inOrder(shown.options, ways)}
          chosen={shown.choice}
          was={edited && out?.options}
          deadline={input.deadline_days}
          at={at}
          onTouch={(id) => setAt(id === at ? undefined : id)}
        />
        <p className="text-quiet text-note px-2">
          Bars show cost from low (1 in 10 is below) to high (1 in 10 is above); the heavy mark is the middle.
          Days: middle to 8 in 10. Touch an option to see its figures.
        </p>
      </Frame>
      {ways.map(
        (way, i) =>
          way.id === at && (
            <Ranges
              key={`${way.id} ${begun}`}
              way={way}
              hangs={shown.options.find((o) => o.id === way.id)?.hinges_on ?? ""}
              onBound={(id, bound, text) => setEdited(withBound(ways, i, id, bound, text))}
            />
          ),
      )}
      <div className="flex flex-wrap gap-3 items-end mt-3">
        <OwnWay onAdd={(says) => setEdited(ownWay(ways, says))} />
        {edited && (
          <WhatIf
            says={shown.says}
            onBack={back}
            onKeep={mayAt(step, "ways") && (() => step?.say({ act: "ways", figure: edited }, back))}
            settled={!what.isFetching && what.data !== undefined}
          />
        )}
      </div>
      {questions}
      <Fault error={edited ? what.error : null} typing named={(path) => boundNamed(path, ways)} />
    </>
  );
}

/** Other ways than those on record, weighed while they are typed. */
function useWhatIf(input: Props["input"]) {
  const [edited, setEdited] = useState<Way[] | undefined>();
  const [begun, setBegun] = useState(0); // what was typed goes with what it was typed for
  const what = useCalculator("decide", edited && whole(input, edited));
  const back = () => {
    setEdited(undefined);
    setBegun(begun + 1);
  };
  return { edited, setEdited, begun, what, back };
}

type WhatIfProps = { says: string; onBack: () => void; onKeep: false | (() => void); settled: boolean };

/** What the typed ways come to, and the way back or on record. */
const WhatIf = ({ says, onBack, onKeep, settled }: WhatIfProps) => (
  <>
    <p role="status" className="text-undecided font-semibold grow">
      What if: {says}. Nothing is recorded yet.
    </p>
    {onKeep && (
      <Button look="go" name="ways" disabled={!settled} onClick={onKeep}>
        Use these figures here
      </Button>
    )}
    <Button onClick={onBack}>Back to recorded figures</Button>
  </>
);

/** The input of the record with other ways; nothing while it is not whole. */
const whole = (input: Props["input"], options: Way[]): InputOf<"decide"> | undefined =>
  input.hourly_rate === undefined ? undefined : { ...input, hourly_rate: input.hourly_rate, options };

/** Options as the ways stand: a bar does not jump while its range is typed. */
const inOrder = (options: Out["options"], ways: readonly Way[]) =>
  ways.flatMap((w) => options.find((o) => o.id === w.id) ?? []);

type RangesProps = {
  way: Way;
  hangs: string;
  onBound: (id: (typeof ranges)[number]["id"], bound: "low" | "likely" | "high", text: string) => void;
};

/** What a way rests on; the input its cost follows most is marked. */
function Ranges({ way, hangs, onBound }: RangesProps) {
  return (
    <table className="w-full mt-3.5 border border-ink">
      <caption className="text-left text-line font-semibold pb-1">{way.says}</caption>
      <thead>
        <tr className="text-quiet text-small text-left">
          <th scope="col" className="font-normal px-3 py-1">
            depends on
          </th>
          {bounds.map((b) => (
            <th key={b.id} scope="col" className="font-normal px-2">
              {b.title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ranges.map((r) => (
          <tr key={r.id} className="border-t border-hair">
            <th scope="row" className="text-left font-normal px-3">
              {r.title}
              {r.hangs === hangs && <b className="text-undecided">: decides it</b>}
            </th>
            {bounds.map((b) => (
              <td key={b.id} className="border-l border-hair">
                <input
                  aria-label={`${r.title}, ${b.title}`}
                  defaultValue={boundText(way, r.id, b.id)}
                  key={`${way.id}.${r.id}.${b.id}`}
                  inputMode="decimal"
                  onChange={(e) => onBound(r.id, b.id, e.target.value)}
                  className="w-full min-w-[72px] min-h-11 px-2 bg-field font-mono"
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function OwnWay({ onAdd }: { onAdd: (says: string) => void }) {
  const [says, setSays] = useState("");
  const add = () => {
    onAdd(says);
    setSays("");
  };
  return (
    <div className="flex gap-2 items-end">
      <Field
        label="Another option"
        value={says}
        onValue={setSays}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          add();
        }}
      />
      <Button disabled={says.trim() === ""} onClick={add}>
        Add this option
      </Button>
    </div>
  );
}

/** What it comes to: the cheapest way, how often, the day to promise. */
function Meaning({ out, input }: Props) {
  const best = out?.options.find((o) => o.id === out.choice);
  if (!out || !best) return null;
  const deadline = input.deadline_days ?? 0;
  return (
    <div aria-live="polite">
      <p className="text-quiet text-small">Usually cheapest</p>
      <p className="text-title font-semibold leading-tight">{best.says}</p>
      <p className="mt-2">{out.says}.</p>
      {deadline > 0 && (
        <table className="w-full text-note mt-2">
          <caption className="text-left text-quiet text-small">
            Ready within the promised {deadline} days
          </caption>
          <tbody>
            {out.options.map((o) => (
              <tr key={o.id} className="border-b border-hair">
                <th scope="row" className="text-left font-normal py-0.5">
                  {o.says}
                </th>
                <td className="font-mono text-right">
                  {o.chance_on_time === undefined || o.chance_on_time === null
                    ? ""
                    : `${Math.round(o.chance_on_time * 100)} in 100 cases`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

export default bench<"decide">({ calc: "decide", Drawing, Meaning });
