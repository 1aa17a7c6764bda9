import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { asQuantity, say as sayQ } from "../../model/quantity";
import { packWords } from "../../model/pack";
import type { ResultOf } from "../../model/results";
import type { PackOffered, Quantity, Units } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choice, Choices } from "../../parts/Choices";
import { Frame } from "../../parts/Frame";
import { useKey } from "../../parts/keys";
import { Verdict } from "../../parts/Verdict";
import { type AtStep, bench, type Face, mayAt } from "../bench";
import { GivenAt } from "../given";
import { FloatDrawing } from "./FloatDrawing";
import { FloatMeaning } from "./FloatMeaning";
import { Shafts } from "./Shafts";

type Props = Face<"end-float">;
export type FloatOut = ResultOf<"end-float">;

/** The shaft in its case, with the packs of the drawer beside it. */
function Drawing(p: Props) {
  const { title, out, step, units, touched, onTouch, rest } = p;
  const trial = step?.trial;
  const { packs, picked, pack } = offered(out, touched, (trial?.pack.length ?? 0) > 0);
  return (
    <>
      <Frame
        label={title}
        block={
          step && [
            ["sheet", step.sheet],
            ["gauge", step.gauge ?? "none chosen"],
          ]
        }
        side={<Packs packs={packs} picked={picked} onPick={onTouch} units={units} trialSum={trial?.sum} />}
      >
        <FloatDrawing out={out} trial={trial} pack={out?.verdict === "in" ? undefined : pack} units={units} />
        {!step && <Typed {...p} />}
      </Frame>
      {!step && <Shafts {...p} />}
      {rest(step ? [] : ["readings", "trial_pack", "target_min", "target_max", "far_side", "others"])}
    </>
  );
}

/** What a loose bench is told at the drawing: the pack in place, what the dial reads, what is wanted. */
const Typed = (p: Props) => (
  <div className="flex flex-wrap gap-3 px-2 pb-2">
    <GivenAt face={p} path="trial_pack" label="pack in place" />
    {Array.from({ length: (p.input.readings?.length ?? 0) + 1 }, (_, i) => (
      <GivenAt key={i} face={p} path={`readings[${i}]`} label={`float read, ${i + 1}`} />
    ))}
    <GivenAt face={p} path="target_min" label="wanted, from" />
    <GivenAt face={p} path="target_max" label="to; minus is preload" />
    <GivenAt face={p} path="far_side.trial_pack" label="pack at far end" />
    <GivenAt face={p} path="far_side.move" label="shaft to go there by" />
  </div>
);

/** What the float means, and the pack to fit next. */
function Meaning(p: Props) {
  const { out, input, step, units } = p;
  if (!out) return null;
  return (
    <>
      <FloatMeaning
        out={out}
        units={units}
        preview={step?.preview === true}
        trial={step?.trial}
        limits={step?.limits ?? limitsOf(input)}
      />
      {out.verdict !== "in" && <Next {...p} out={out} />}
      <Sources out={out} />
    </>
  );
}

/** The pack to fit, or what else the readings ask for. */
function Next({ out, step, units, touched, onTouch }: Props & { out: FloatOut }) {
  const { pack, picked } = offered(out, touched, (step?.trial?.pack.length ?? 0) > 0);
  const fits = step !== undefined && pack !== undefined && mayFit(step);
  const fit = () =>
    pack &&
    step?.say(
      { act: "fit", pack: pack.pieces.map((x) => ({ thickness: x.thickness, count: x.count })) },
      () => onTouch(-1),
    );
  useKey("act", "fit this pack", fit, fits);
  if (!fits)
    return (
      <p className="border-t border-ink pt-3">
        <b>Next.</b> {out.next}
      </p>
    );
  return (
    <div className="border-t border-ink pt-3">
      <h3 className="text-head">Next</h3>
      <p>{nextWords(out, pack, units, picked)}</p>
      <Button look="go" hint="F" name="fit" className="w-full mt-2.5" onClick={fit}>
        Fit this pack
      </Button>
    </div>
  );
}

/** A pack is fitted once all readings are on record. */
const mayFit = (step: AtStep) => !step.preview && step.readings.length >= step.wants && mayAt(step, "fit");

/** What a loose bench is held against. */
const limitsOf = (input: Props["input"]): AtStep["limits"] => {
  const [min, max] = [asQuantity(input.target_min), asQuantity(input.target_max)];
  return { ...(min && { min }), ...(max && { max }) };
};

export default bench<"end-float">({ calc: "end-float", Drawing, Meaning });

/** Out of limits, the best pack is proposed; undecided, only what was asked for. */
function offered(out: FloatOut | undefined, touched: number, inPlace: boolean) {
  // To take the pack out is one way; to fit none where none is, is no way.
  const packs = (out && out.verdict !== "in" ? out.packs : []).filter(
    (p) => p.pieces.length > 0 || (inPlace && p.verdict === "in"),
  );
  const picked = out?.verdict === "out" ? Math.max(0, touched) : touched;
  return { packs, picked, pack: packs[Math.min(picked, packs.length - 1)] };
}

function nextWords(out: FloatOut, pack: PackOffered, units: Units, picked: number) {
  if (picked === 0 && out.verdict === "out" && out.pack_verdict !== "out") return out.next;
  return `This pack is ${sayQ(pack.sum, units)}. Expect a float of ${sayQ(pack.float, units)}.${pack.verdict === "in" ? "" : " It may not be within the sheet."}`;
}

/** Packs of the drawer, best first, with the float each would give. */
function Packs({
  packs,
  picked,
  onPick,
  units,
  trialSum,
}: {
  packs: PackOffered[];
  picked: number;
  onPick: (i: number) => void;
  units: Units;
  trialSum: Quantity | undefined;
}) {
  if (packs.length === 0)
    return (
      <p className="p-3 text-quiet text-small">
        If the float is out, packs from the drawer appear here.
        {trialSum && ` In place now: ${sayQ(trialSum, units)}.`}
      </p>
    );
  return (
    <Choices label="Packs from the drawer" chosen={picked} onPick={onPick}>
      {packs.map((pack, i) => (
        <Choice
          key={pack.pieces.map((x) => `${x.count}x${x.thickness.value}${x.thickness.unit}`).join() || "none"}
          value={i}
          className="min-h-[58px] px-3 py-1.5 text-small"
        >
          <b className="font-semibold text-note">
            {pack.pieces.length === 0
              ? "No shim: take the pack out"
              : packWords(pack.pieces, (q) => sayQ(q, units))}
          </b>
          <span className="flex items-center justify-between text-quiet">
            leaves {sayQ(pack.float, units)} <Verdict verdict={pack.verdict} small />
          </span>
        </Choice>
      ))}
    </Choices>
  );
}

function Sources({ out }: { out: FloatOut }) {
  return (
    <Disclosure as="div" className="text-small text-quiet">
      <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue">
        How this was worked out
      </DisclosureButton>
      <DisclosurePanel>
        <p>New pack = pack fitted + float − target. The target is halfway between the sheet's limits.</p>
        <p>
          n = {out.float.n}, s = {out.float.s?.value.toPrecision(2) ?? "–"} {out.float.s?.unit}, u from spread{" "}
          {out.float.u_a.value.toPrecision(2)}, from the scale {out.float.u_res.value.toPrecision(2)}, from
          the gauge {out.float.u_mpe.value.toPrecision(2)}; times {out.float.coverage.toFixed(2)} for{" "}
          {Math.round(100 * out.float.confidence)} %.
        </p>
        <p>
          {out.method}: {out.source.join("; ")}
        </p>
      </DisclosurePanel>
    </Disclosure>
  );
}
