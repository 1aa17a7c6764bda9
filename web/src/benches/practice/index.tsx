import { useKeepPractice } from "../../data/practice";
import { believed } from "../../model/json";
import type { InputOf, ResultOf } from "../../model/results";
import { money } from "../../model/costs";
import { several } from "../../model/several";
import { ApiError } from "../../model/problem";
import { Fault } from "../../parts/Fault";
import { Button } from "../../parts/Button";
import { Choice, Choices } from "../../parts/Choices";
import { anotherSeed } from "../../model/practice";
import { bench, type Face } from "../bench";
import { Answers } from "./Answers";
import { AxleActs } from "./AxleActs";
import { FaultActs } from "./FaultActs";
import { HousingActs } from "./HousingActs";
import { Truth } from "./Truth";

export type Out = ResultOf<"practice">;
type In = InputOf<"practice">;
export type Act = NonNullable<In["acts"]>[number];
type Props = Face<"practice">;

/** What the acts of a kind need: what is known, and a way to do one more. */
export type ActsProps = { out: Out; acts: readonly Act[]; onAct: (...more: Act[]) => void };

const kinds = [
  ["axle", "Axle"],
  ["housing", "Bell housing"],
  ["fault", "Driveline with a fault"],
] as const;

const levels = [
  ["clean", "Clean"],
  ["noisy", "Noisy"],
  ["trap", "With a trap"],
] as const;

const screens = { axle: AxleActs, housing: HousingActs, fault: FaultActs };

/** Something to practise on: what may be done with it, and what came of it so far. */
function Drawing({ out, input, onInput, questions }: Props) {
  if (!onInput) return questions;
  const acts = input.acts ?? [];
  const fresh = (change: Partial<In>) => onInput({ ...input, ...change, acts: [], reveal: false });
  const Acts = screens[input.kind ?? "axle"];
  return (
    <>
      <div className="flex flex-wrap gap-4 items-center mt-3.5">
        <Pick
          label="Practise on"
          all={kinds}
          chosen={input.kind ?? "axle"}
          onPick={(kind) => fresh({ kind })}
        />
        <Pick
          label="Level"
          all={levels}
          chosen={input.level ?? "clean"}
          onPick={(level) => fresh({ level })}
        />
        <Button name="another" onClick={() => fresh({ seed: anotherSeed() })}>
          Another one
        </Button>
      </div>
      {out && (
        <>
          <Acts out={out} acts={acts} onAct={(...more) => onInput({ ...input, acts: [...acts, ...more] })} />
          <Answers out={out} acts={acts} />
        </>
      )}
      {/* A refused act is taken back too. */}
      {acts.length > 0 && (
        <Button
          look="quiet"
          className="mt-2"
          name="undo"
          onClick={() => onInput({ ...input, acts: acts.slice(0, -1) })}
        >
          Undo the last
        </Button>
      )}
      <details className="mt-3.5">
        <summary className="min-h-11 flex items-center text-blue underline underline-offset-3">
          All of it as text
        </summary>
        {questions}
      </details>
    </>
  );
}

type PickProps<T extends string> = {
  label: string;
  all: readonly (readonly [T, string])[];
  chosen: T;
  onPick: (v: T) => void;
};

const Pick = <T extends string>({ label, all, chosen, onPick }: PickProps<T>) => (
  <Choices label={label} chosen={chosen} onPick={onPick} className="flex flex-wrap">
    {all.map(([id, title]) => (
      <Choice key={id} value={id} className="px-4 py-2.5 -ml-px">
        {title}
      </Choice>
    ))}
  </Choices>
);

/** What it has cost so far, and the truth when it is asked for. */
function Meaning({ out, input, onInput, units }: Props) {
  const keep = useKeepPractice();
  const reveal = () => {
    onInput?.({ ...input, reveal: true });
    keep.mutate(believed<InputOf<"practice">>(input));
  };
  if (!out) return null;
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">Time so far</p>
        <p className="font-mono font-medium text-figure leading-none tracking-tight">
          {out.minutes} <span className="text-head">min</span>
        </p>
        <p className="text-quiet mt-1.5 text-small">
          {several(out.done_so_far.readings, "reading")}, put together{" "}
          {several(out.done_so_far.assemblies, "time")}
          {out.money > 0 && `, ${money(out.money)} for parts`}
        </p>
      </div>
      {out.truth ? (
        <Truth out={out} truth={out.truth} units={units} />
      ) : (
        <Button look="go" name="reveal" onClick={reveal}>
          Tell me the truth
        </Button>
      )}
      {/* Who only reads here keeps no runs, and need not be told. */}
      <Fault error={keep.error instanceof ApiError && keep.error.status === 403 ? null : keep.error} />
      <p className="text-quiet text-small">
        Practice only: nothing of it is on any record. <a href="/practice">How it went so far</a>
      </p>
    </>
  );
}

export default bench<"practice">({ calc: "practice", Drawing, Meaning });
