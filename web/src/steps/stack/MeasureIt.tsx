import { useState } from "react";
import { useUnits } from "../../data/calc";
import { usePreview } from "../../data/rebuilds";
import { asQuantity, sameKind, say as sayQuantity } from "../../model/quantity";
import { said } from "../../model/json";
import type { Quantity, Units } from "../../model/types";
import { lifeWords, type Worn, wornOf, type WornTyped } from "../../model/wear";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept, useKeptField } from "../../parts/kept";
import { ReadWith } from "../measure/ReadWith";
import type { PartProps } from "./acts";
import { LifeLine } from "./LifeLine";

type Wear = ReturnType<typeof useWear>;

/** What is measured of the part against new and limit, and the life that is left. */
export function useWear(p: PartProps) {
  const sheet = p.view.wears[p.part.id];
  const was = p.correcting ? p.part.wear : undefined;
  const [open, setOpen] = useState(sheet !== undefined || was !== undefined);
  const { typed, fields, clear } = useWearTyped(p, was);
  const worn = open ? wornOf(typed) : undefined;
  const gauge = useGauge(p, asQuantity(worn?.limit) ?? sheet?.limit);
  const judged = useJudged(p, worn, gauge.id);
  return {
    open,
    setOpen,
    worn,
    fields,
    clear,
    gauges: gauge.list,
    gauge: gauge.id,
    setGauge: gauge.pick,
    ...judged,
  };
}

/** The four fields, as they stand in the record or else in the sheet. */
function useWearTyped({ view, part }: PartProps, was: Worn | undefined) {
  const units = useUnits().data;
  const place = `${view.step.id}.wear/${part.id}`;
  const text = (q: { value: number; unit: string } | undefined) => (q ? sayQuantity(q, units) : "");
  const known: Partial<Worn> = was ?? view.wears[part.id] ?? {};
  const readings = was?.readings?.map(text).join(" ") ?? text(was?.value);
  const fields = {
    what: useKeptField(`${place}.what`, known.what ?? ""),
    value: useKeptField(`${place}.value`, readings),
    new: useKeptField(`${place}.new`, text(known.new)),
    limit: useKeptField(`${place}.limit`, text(known.limit)),
  };
  const typed: WornTyped = {
    what: fields.what.value,
    value: fields.value.value,
    new: fields.new.value,
    limit: fields.limit.value,
  };
  const clear = () => Object.values(fields).forEach((f) => f.onValue(""));
  return { typed, fields, clear };
}

/** The gauges that read in units of this kind, and the one at hand. */
function useGauge({ view }: PartProps, like: Quantity | undefined) {
  const units = useUnits().data;
  const [gauge, pick] = useKept(`${view.step.id}.gauge`);
  const list = (view.gauges ?? []).filter((g) =>
    sameKind(g.resolution?.unit ?? "", like?.unit ?? "mm", units),
  );
  return { list, pick, id: list.find((g) => g.id === gauge)?.id ?? "" };
}

/** What the server says of a reading; to be replaced wants no reason, so it is asked about that. */
function useJudged({ rebuild, view, part }: PartProps, wear: ReturnType<typeof wornOf>, instrument: string) {
  const draft = wear && {
    act: "verdict" as const,
    item: part.id,
    outcome: "replace",
    wear,
    ...said({ instrument }),
  };
  const read = usePreview(rebuild, view.step.id, draft).data;
  const shown = wear && read?.body.wear;
  const unsure = read?.verdict === "undecided";
  const left = shown && (shown.left ?? 0);
  /** Over its limit, or too near to tell: it stays only with a reason. */
  const past = unsure || (left !== undefined && left < 0);
  return { shown, left, unsure, past };
}

/** Where it is measured. */
export function MeasureIt({ wear }: { wear: Wear }) {
  const units = useUnits().data;
  const { fields } = wear;
  if (!wear.open)
    return (
      <Button look="quiet" onClick={() => wear.setOpen(true)}>
        Measure this part
      </Button>
    );
  return (
    <div className="flex flex-wrap gap-2 items-end grow">
      <Field
        label="What was measured"
        placeholder="thickness"
        {...fields.what}
        className="basis-[120px] grow"
      />
      <Field label="Readings, one or more" {...fields.value} inputMode="text" className="basis-[170px]" />
      <Field label="New size" {...fields.new} inputMode="decimal" className="basis-[100px]" />
      <Field label="Limit" {...fields.limit} inputMode="decimal" className="basis-[100px]" />
      <ReadWith
        kind=""
        instruments={[{ id: "", kind: "", name: "no gauge chosen" }, ...wear.gauges]}
        value={wear.gauge}
        onPick={wear.setGauge}
      />
      {wear.shown && <Left wear={wear} shown={wear.shown} units={units} />}
    </div>
  );
}

function Left({ wear, shown, units }: { wear: Wear; shown: Worn; units: Units }) {
  const { left = 0, unsure, past } = wear;
  const colour = unsure ? "text-undecided" : past ? "text-out" : "text-in";
  return (
    <p role="status" className="min-h-11 flex gap-3 items-center">
      <LifeLine worn={shown} units={units} />
      <b className={`font-semibold ${colour}`}>
        {unsure ? "too close to the limit to call" : lifeWords(left)}
      </b>
    </p>
  );
}
