import { useState } from "react";
import { useUnits } from "../../data/calc";
import { packOf } from "../../parts/drawn/packs";
import { AxleCut } from "../../parts/drawn/AxleCut";
import { withUnit } from "../../model/quantity";
import { begun } from "../../model/words";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Frame } from "../../parts/Frame";
import { readWords } from "./Answers";
import type { ActsProps } from ".";

const packs = [
  ["pinion_shim", "Pinion shim"],
  ["left", "Left pack"],
  ["right", "Right pack"],
] as const;

type Name = (typeof packs)[number][0];

/** An axle: the packs in it, what may be read, and the next assembly to be typed. */
export function AxleActs({ out, acts, onAct }: ActsProps) {
  const units = useUnits().data;
  const now = (name: Name) =>
    acts.findLast((a) => a.assemble?.[name])?.assemble?.[name] ?? out.given.as_found?.[name];
  const four = (read: string) => onAct(...[12, 3, 6, 9].map((at) => ({ read, at })));
  return (
    <>
      <Frame label="Practice axle" wide>
        <AxleCut
          pinion={packOf(now("pinion_shim"), undefined, units)}
          left={packOf(now("left"), undefined, units)}
          right={packOf(now("right"), undefined, units)}
          ring={out.given.ring_side === "right" ? "right" : "left"}
          move={0}
          label="Axle cut open, with the packs that are in it"
        />
      </Frame>
      <div role="group" aria-label="Read" className="flex flex-wrap gap-2 mt-3.5">
        <Button name="round" onClick={() => four("backlash")}>
          Backlash, four places
        </Button>
        {["depth", "slack", "side_play", "turning", "pattern", "zero"].map((read) => (
          <Button key={read} name={read} onClick={() => onAct({ read })}>
            {begun(readWords[read] ?? read)}
          </Button>
        ))}
        <Button name="runout" onClick={() => four("runout")}>
          Runout, four places
        </Button>
      </div>
      <NextAssembly onAct={onAct} />
    </>
  );
}

/** What to put together next: a pack that is left empty stays as it is. */
function NextAssembly({ onAct }: Pick<ActsProps, "onAct">) {
  const [typed, setTyped] = useState<Partial<Record<Name, string>>>({});
  const [also, setAlso] = useState({ clean: false, swap_caps: false });
  const some = also.clean || also.swap_caps || packs.some(([name]) => typed[name]?.trim());
  const build = () => {
    const said = Object.fromEntries(
      packs.flatMap(([name]) => (typed[name]?.trim() ? [[name, withUnit(typed[name], "mm")]] : [])),
    );
    onAct({
      assemble: { ...said, ...(also.clean && { clean: true }), ...(also.swap_caps && { swap_caps: true }) },
    });
    setTyped({});
    setAlso({ clean: false, swap_caps: false });
  };
  return (
    <form
      aria-label="Next assembly"
      className="flex flex-wrap gap-3 items-end mt-3.5"
      onSubmit={(e) => {
        e.preventDefault();
        build();
      }}
    >
      {packs.map(([name, label]) => (
        <Field
          key={name}
          label={label}
          value={typed[name] ?? ""}
          onValue={(v) => setTyped({ ...typed, [name]: v })}
          unit="mm"
          inputMode="decimal"
          className="w-36"
        />
      ))}
      <Tick label="Clean first" on={also.clean} onTick={(clean) => setAlso({ ...also, clean })} />
      <Tick
        label="Change caps over"
        on={also.swap_caps}
        onTick={(swap_caps) => setAlso({ ...also, swap_caps })}
      />
      <Button type="submit" look="go" name="assemble" disabled={!some}>
        Put it together
      </Button>
    </form>
  );
}

type TickProps = { label: string; on: boolean; onTick: (on: boolean) => void };

const Tick = ({ label, on, onTick }: TickProps) => (
  <label className="flex items-center gap-2 min-h-11">
    <input type="checkbox" className="size-5" checked={on} onChange={(e) => onTick(e.target.checked)} />
    {label}
  </label>
);
