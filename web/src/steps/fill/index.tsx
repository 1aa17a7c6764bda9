import { useId, useRef } from "react";
import { nextOf, say as sayQuantity, withUnit } from "../../model/quantity";
import { filledOf } from "../../model/results";
import { type Draft, liveAt } from "../../model/types";
import { Asked, useAsked } from "../../parts/Asked";
import { Button } from "../../parts/Button";
import { Choices, Reasoned } from "../../parts/Choices";
import { useUnits } from "../../data/calc";
import { usePreview } from "../../data/rebuilds";
import { Fault, faulty } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { MarginSlot } from "../../parts/MarginSlot";
import { NumberLine } from "../../parts/NumberLine";
import { Verdict } from "../../parts/Verdict";
import type { PropsOf } from "../props";

type Props = PropsOf<"fill">;

/** A class of fluid, and how much of it. */
export default function FillStep(p: Props) {
  const said = useFilling(p);
  const { fluid, draft } = said;
  const fluids = p.view.fluids.filter((f) => !p.view.chosen || f.id === p.view.chosen);
  const form = useRef<HTMLFormElement>(null);
  /** The fluid first, then how much of it. */
  const pick = (to: string) => {
    said.setFluid(to);
    form.current?.querySelector("input")?.focus();
  };
  return (
    <form
      ref={form}
      className="border border-ink mt-3.5"
      onSubmit={(e) => {
        e.preventDefault();
        said.take();
      }}
    >
      <Choices
        label="Fluid"
        chosen={fluid}
        onPick={said.setFluid}
        onFigure={pick}
        {...(fluid === "" && { hands: fluids.map((f) => f.id) })}
      >
        {fluids.map((f, i) => (
          <Reasoned
            key={f.id}
            id={f.id}
            {...(fluid === "" && { figure: i + 1 })}
            title={f.class}
            text={f.why}
            warn={f.forbids}
          />
        ))}
      </Choices>
      <HowMuch fill={p.view.fill} said={said} />
      {said.shown && <Filled shown={said.shown} open={draft !== undefined} />}
    </form>
  );
}

/** What is being filled in: the fluid, how much, what that would be, and what is wrong with it. */
function useFilling({ view, say, rebuild, fault, refused }: Props) {
  const old = liveAt(view.entries, "filled");
  const [fluid, setFluid] = useKept(`fluid.${view.step.id}`, old?.body.outcome ?? view.chosen ?? "");
  const [typed, setTyped] = useKept(`fill.${view.step.id}`);
  const [unit, setUnit] = useKept("unit.volume", view.units[0] ?? "");
  const draft = draftOf(fluid, typed.trim() && withUnit(typed, unit), old?.id);
  const preview = usePreview(rebuild, view.step.id, draft);
  const asked = useAsked(typed, unit, limitsOf(view.fill));
  return {
    fluid,
    setFluid,
    typed,
    setTyped,
    unit,
    turn: () => setUnit(nextOf(view.units, unit)),
    draft,
    question: asked.question,
    wrong: preview.error ?? (refused?.value ? fault : null),
    shown: filledOf((draft ? preview.data : old)?.result),
    take: () => draft && asked.may() && say(draft, () => setTyped("")),
  };
}

const draftOf = (outcome: string, value: string, old: string | undefined): Draft | undefined =>
  outcome && value ? { act: "filled", outcome, value, ...(old && { supersedes: old }) } : undefined;

const limitsOf = (fill: Props["view"]["fill"]) => (fill ? [fill.min, fill.max] : []);

type HowMuchProps = { fill: Props["view"]["fill"]; said: ReturnType<typeof useFilling> };

function HowMuch({ fill, said }: HowMuchProps) {
  const units = useUnits().data;
  const id = useId();
  const sheet = fill
    ? `sheet: ${sayQuantity(fill.min, units)} to ${sayQuantity(fill.max, units)}`
    : "quantity not known: fill to the level";
  return (
    <>
      <div className="p-4 border-t border-ink flex flex-wrap gap-2 items-end">
        <Field
          label={`Quantity, ${sheet}`}
          numeric
          value={said.typed}
          onValue={said.setTyped}
          inputMode="decimal"
          {...faulty(said.wrong, id)}
          className="basis-[240px]"
        />
        <Button look="quiet" title="change unit" onClick={said.turn}>
          {said.unit}
        </Button>
        <Button look="go" type="submit" hint="Enter" name="filled" disabled={!said.draft}>
          Record quantity
        </Button>
      </div>
      {said.draft && (
        <div className="px-4">
          <Asked question={said.question} />
          <Fault error={said.wrong} id={id} typing />
        </div>
      )}
    </>
  );
}

/** How much that is, in the units people buy by, and how it stands to the sheet. */
const Filled = ({ shown, open }: { shown: NonNullable<ReturnType<typeof filledOf>>; open: boolean }) => (
  <MarginSlot>
    <div>
      <p className="text-quiet text-small">{open ? "That is" : "Recorded"}</p>
      <p className="font-mono font-medium text-figure leading-none">
        {shown.litre.value.toFixed(2)} <span className="text-head">L</span>
      </p>
      <p className="text-quiet mt-1.5">
        {shown.us_quart.value.toFixed(2)} US qt, {shown.imp_pint.value.toFixed(2)} imp pt
      </p>
      <p className="mt-1">{shown.fluid}</p>
      <p className="mt-2">
        <Verdict verdict={shown.verdict} />
      </p>
    </div>
    {shown.min && shown.max && (
      <NumberLine
        value={shown.litre.value}
        uncertainty={0}
        lower={shown.min.value}
        upper={shown.max.value}
        unit="L"
        verdict={shown.verdict}
        decimals={2}
      />
    )}
  </MarginSlot>
);
