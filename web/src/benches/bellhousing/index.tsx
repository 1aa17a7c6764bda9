import { useState } from "react";
import { drawn } from "../../model/number";
import { say as sayQ, sayClock, unsigned } from "../../model/quantity";
import type { Answered, InputOf, ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choice, Choices } from "../../parts/Choices";
import { useCalculator, useWords } from "../../data/calc";
import { BigFigure } from "../../parts/BigFigure";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { useKey } from "../../parts/keys";
import { Verdict } from "../../parts/Verdict";
import { begun } from "../../model/words";
import { NumberLine } from "../../parts/NumberLine";
import { type AtStep, bench, type Face, mayAt } from "../bench";
import { asksFor, GivenAt, GivenRow, Laid, type PlaceOver } from "../given";
import { onClock } from "../../parts/drawn/clock";
import { half, Housing, ring } from "./Housing";
import { either, Obtained } from "./Obtained";
import { Places } from "./Places";
import { pickedOf, plansOf, planWords } from "./plans";

export type Out = ResultOf<"bellhousing">;
export type Dowel = NonNullable<Answered<InputOf<"bellhousing">>["try"]>[number];
type Props = Face<"bellhousing">;

/**
 * Bore and crank circle drawn round each other, the readings typed at their places, the dowels where they
 * sit.
 */
function Drawing(p: Props) {
  const { title, out, input, step, units, touched, onTouch } = p;
  const picked = pickedOf(out, touched);
  const plan = plansOf(out)[picked];
  const { turned, turn, tried } = useTurned(input);
  const pick = (i: number) => {
    turn(undefined);
    onTouch(i);
  };
  return (
    <>
      <Trial trial={step?.trial} />
      <Frame
        label={title}
        block={[["seen from", "behind the engine"], ...(step ? fromStep(step) : [])]}
        side={<Plans out={out} picked={picked} onPick={pick} units={units} />}
      >
        <div className="relative mx-auto max-w-[520px] min-w-[380px]">
          <Housing
            out={out}
            input={input}
            units={units}
            dowels={turned ?? plan?.dowels}
            predicted={(turned ? tried : plan)?.predicted}
            onTurn={turn}
          />
          <Typed {...p} />
        </div>
      </Frame>
      <PilotTyped {...p} />
      {p.rest(takenBy(p))}
      {out && <Checks out={out} input={input} units={units} />}
      {turned && tried && <Tried dowels={turned} tried={tried} units={units} />}
    </>
  );
}

const pilot = [
  ["pilot.bush", "pilot bush, inside"],
  ["pilot.shaft", "tip of the shaft"],
  ["pilot.runout", "needle's swing in the bush"],
  ["pilot.least", "clearance, from"],
  ["pilot.most", "to"],
] as const;

/** The pilot bush: at a step what it asks of it. */
const PilotTyped = (p: Props) => (
  <div className="mt-3.5">
    <GivenRow face={p} fields={p.step ? pilot.filter(([path]) => asksFor(p, path)) : pilot} />
  </div>
);

/** What the drawing takes itself. */
const takenBy = (p: Props) => (p.step || drawnReadings(p) ? ["readings", "pilot"] : ["pilot"]);

/** A few readings stand at their places; a whole circle of them is a list. */
const drawnReadings = ({ input }: Props) => (input.readings?.length ?? 0) <= 9;

/** Where readings are typed: what a step asks, or those of a loose bench. */
const Typed = (p: Props) =>
  p.step ? (
    <Places input={p.input} given={p.given} step={p.step} />
  ) : (
    drawnReadings(p) && <Laid {...square} places={typedAt(p)} />
  );

const square = { width: 2 * half, height: 2 * half };

/** The readings of a loose bench, typed where the indicator stood; turn by turn outward. */
function typedAt(p: Props): PlaceOver[] {
  const clocks = (p.input.readings ?? []).map((x) => drawn(x.clock) ?? 12);
  return onClock(clocks, ring + 46, { beside: 92, below: 50 }).map(({ x, y, says }, i) => ({
    x: half + x,
    y: half + y - 22,
    shows: <GivenAt face={p} path={`readings[${i}].reading`} label={says} bare />,
  }));
}

const Trial = ({ trial }: Pick<Partial<AtStep>, "trial">) =>
  trial?.changed && (
    <p className="mt-3 text-quiet text-note">
      Trial {trial.number}. Changed: {trial.changed}
    </p>
  );

const fromStep = (step: AtStep) =>
  [
    ["sheet", step.sheet],
    ["gauge", step.gauge ?? "none chosen"],
  ] as const;

/** Dowels turned by hand are asked about; nothing of it is kept. */
function useTurned(input: Props["input"]) {
  const [turned, turn] = useState<Dowel[] | undefined>();
  const asked = turned && input.readings?.length ? { ...input, try: turned } : undefined;
  return { turned, turn, tried: useCalculator("bellhousing", asked).data?.tried };
}

type TriedProps = { dowels: Dowel[]; tried: NonNullable<Out["tried"]>; units: Units };

/** What the dowels as turned by hand would leave. */
const Tried = ({ dowels, tried, units }: TriedProps) => (
  <p className="mt-2 text-body" aria-live="polite">
    Turned by hand: {planWords(dowels, units)} leaves <b>{sayQ(tried.predicted.magnitude, units)}</b> and
    strains the holes by {sayQ(unsigned(tried.bind), units)}. Nothing is recorded yet.
  </p>
);

/** Opposite places and the way back to the start warn of an indicator that slipped. */
function Checks({ out, input, units }: { out: Out; input: Props["input"]; units: Units }) {
  return (
    <>
      <p className="mt-2 text-quiet text-note">
        {out.opposites
          ? `Opposite readings agree within ${sayQ(unsigned(out.opposites), units)}`
          : "Read only once, cannot be checked"}
        {out.closure && `, back at 12 within ${sayQ(out.closure, units)}`}
        {out.repeat && `, the second turn agrees within ${sayQ(out.repeat, units)}`}. Total runout{" "}
        {sayQ(out.tir, units)} (twice the offset).
      </p>
      <Obtained out={out} before={input.before} units={units} />
    </>
  );
}

type PlansProps = { out: Out | undefined; picked: number; onPick: (i: number) => void; units: Units };

/** The plans, three a school at most, each with what it would leave. */
function Plans({ out, picked, onPick, units }: PlansProps) {
  const word = useWords();
  const plans = plansOf(out);
  if (plans.length === 0)
    return (
      <p className="p-3 text-quiet text-small">
        If the offset is over the limit, dowel settings appear here.
      </p>
    );
  return (
    <Choices label="Dowel settings" chosen={picked} onPick={onPick}>
      {plans.map((plan, i) => (
        <Choice key={planWords(plan.dowels, units)} value={i} className="px-3 py-2 text-small">
          <b className="block font-semibold text-note">{word(`school.${plan.school}`)}</b>
          <span className="block">{planWords(plan.dowels, units)}</span>
          <span className="text-quiet">
            leaves <b>{sayQ(plan.predicted.magnitude, units)}</b>,{" "}
            {plan.bind.value === 0
              ? "no strain on the holes"
              : `strains holes by ${sayQ(unsigned(plan.bind), units)}`}
          </span>
        </Choice>
      ))}
    </Choices>
  );
}

/** How far the bore stands off, and the plan to fit. */
function Meaning({ out, step, units, touched }: Props) {
  if (!out) return null;
  const { magnitude } = out.offset;
  const plan = plansOf(out)[pickedOf(out, touched)];
  return (
    <>
      <Offset out={out} units={units} preview={step?.preview === true} />
      <NumberLine
        value={magnitude.value}
        uncertainty={out.uncertainty?.value ?? 0}
        upper={out.limit.value}
        unit={magnitude.unit}
        verdict={out.verdict}
        decimals={units?.find((u) => u.symbol === magnitude.unit)?.decimals ?? 1}
      />
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      {out.pilot && <Pilot of={out.pilot} units={units} />}
      {plan ? (
        <Next plan={plan} at={pickedOf(out, touched)} step={step} units={units} />
      ) : (
        <p className="border-t border-ink pt-3">{out.says}</p>
      )}
      <Method out={out} help={help} />
    </>
  );
}

/** How far and which way, with its verdict. */
const Offset = ({ out, units, preview }: { out: Out; units: Units; preview: boolean }) => (
  <BigFigure
    label={preview ? "With this reading the bore is off by" : "The bore is off the crankshaft axis by"}
    value={out.offset.magnitude}
    uncertainty={out.uncertainty}
    below={`toward ${sayClock(out.offset.clock)}: ${either(out.offset.right, ["right", "left"], units)}, ${either(out.offset.up, ["up", "down"], units)}`}
    verdict={out.verdict}
    beyond={out.beyond}
    units={units}
  />
);

/** How the shaft's tip runs in its bush. */
const Pilot = ({ of, units }: { of: NonNullable<Out["pilot"]>; units: Units }) => (
  <div className="border-t border-ink pt-3 text-note">
    {of.clearance && (
      <p>
        Pilot bush: {sayQ(of.clearance, units)} clearance{" "}
        {of.verdict !== "none" && <Verdict verdict={of.verdict} small />}
      </p>
    )}
    <p>{begun(of.says)}.</p>
  </div>
);

type NextProps = { plan: ReturnType<typeof plansOf>[number]; at: number; step: Props["step"]; units: Units };

/** The plan to fit and what to expect of it. */
function Next({ plan, at, step, units }: NextProps) {
  const fits = step !== undefined && !step.preview && mayAt(step, "again");
  const fit = () =>
    step?.say({ act: "again", reason: `dowels set: ${planWords(plan.dowels, units)}`, plan: at + 1 });
  useKey("act", "use this setting", fit, fits);
  return (
    <div className="border-t border-ink pt-3">
      <h3 className="text-head">Next</h3>
      <p>
        Set the dowels: {planWords(plan.dowels, units)}. Bolt up and measure again. Expect{" "}
        {sayQ(plan.predicted.magnitude, units)}, within the limit in {Math.round(100 * (plan.chance ?? 0))} of
        100 cases.
      </p>
      {fits && (
        <Button look="go" hint="F" name="again" className="w-full mt-2.5" onClick={fit}>
          Use this setting
        </Button>
      )}
    </div>
  );
}

const help: HelpText = {
  hold:
    "Magnet foot on the flywheel or its cover, plunger square on the bore. " +
    "Zero at 12, turn the crank by hand the same way all round, read from behind the engine.",
  wrong:
    "A base that creeps shows as a 12 that does not come back. " +
    "An arm that sags reads more at 6: lay it on a true ring first and type what it says there.",
  why:
    "A dial sees the offset twice, once on each side, " +
    "so the bore is off by half of what the needle travels.",
};

export default bench<"bellhousing">({ calc: "bellhousing", Drawing, Meaning });
