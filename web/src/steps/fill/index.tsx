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

/** A class of fluid, and how much of it. */
export default function FillStep({ view, say, rebuild, fault, refused }: PropsOf<"fill">) {
  const units = useUnits().data;
  const old = liveAt(view.entries, "filled");
  const [fluid, setFluid] = useKept(`fluid.${view.step.id}`, old?.body.outcome ?? view.chosen ?? "");
  const [typed, setTyped] = useKept(`fill.${view.step.id}`);
  const [unit, setUnit] = useKept("unit.volume", view.units[0] ?? "");
  const draft: Draft | undefined =
    fluid && typed.trim()
      ? { act: "filled", outcome: fluid, value: withUnit(typed, unit), ...(old && { supersedes: old.id }) }
      : undefined;
  const preview = usePreview(rebuild, view.step.id, draft);
  const wrong = preview.error ?? (refused?.value === undefined ? null : fault);
  const id = useId();
  const shown = filledOf((draft ? preview.data : old)?.result);
  const sheet = view.fill
    ? `sheet says ${sayQuantity(view.fill.min, units)} to ${sayQuantity(view.fill.max, units)}`
    : "nobody knows how much: up to the level";
  const asked = useAsked(typed, unit, view.fill ? [view.fill.min, view.fill.max] : []);
  const take = () => draft && asked.may() && say(draft, () => setTyped(""));
  const fluids = view.fluids.filter((f) => !view.chosen || f.id === view.chosen);
  const form = useRef<HTMLFormElement>(null);
  /** The fluid first, then how much of it. */
  const pick = (to: string) => {
    setFluid(to);
    form.current?.querySelector("input")?.focus();
  };
  return (
    <form
      ref={form}
      className="border border-ink mt-3.5"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <Choices
        label="Fluid"
        chosen={fluid}
        onPick={setFluid}
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
      <div className="p-4 border-t border-ink flex flex-wrap gap-2 items-end">
        <Field
          label={`Quantity, ${sheet}`}
          numeric
          value={typed}
          onValue={setTyped}
          inputMode="decimal"
          {...faulty(wrong, id)}
          className="basis-[240px]"
        />
        <Button look="quiet" title="another unit" onClick={() => setUnit(nextOf(view.units, unit))}>
          {unit}
        </Button>
        <Button look="go" type="submit" hint="Enter" name="filled" disabled={!draft}>
          Put it down
        </Button>
      </div>
      {draft && (
        <div className="px-4">
          <Asked question={asked.question} />
          <Fault error={wrong} id={id} typing />
        </div>
      )}
      {shown && (
        <MarginSlot>
          <div>
            <p className="text-quiet text-small">{draft ? "That would be" : "Written down"}</p>
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
      )}
    </form>
  );
}
