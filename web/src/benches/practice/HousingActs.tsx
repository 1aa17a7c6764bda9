import { useState } from "react";
import { useUnits } from "../../data/calc";
import { say as sayQ, sayClock } from "../../model/quantity";
import { Button } from "../../parts/Button";
import type { ActsProps } from ".";

const round = [12, 3, 6, 9, 12].map((at) => ({ read: "dial", at }));
const plain = { value: 0, unit: "mm" };

/** Every fifteen degrees, as on a clock. */
const clocks = Array.from({ length: 24 }, (_, i) => (i === 0 ? 12 : i / 2));

/** A dowel as it is chosen: the place of its size and of its clock in their lists. */
type Chosen = { size: number; clock: number };

/** A bell housing: rounds of the dial, the arm's sag, and two dowels to be set. */
export function HousingActs({ out, onAct }: ActsProps) {
  const sizes = [plain, ...(out.given.dowel_sizes ?? [])];
  const [dowels, setDowels] = useState<Chosen[]>([
    { size: 0, clock: 0 },
    { size: 0, clock: 0 },
  ]);
  const bolt = () =>
    onAct({
      assemble: {
        dowels: dowels.map((d) => ({ size: sizes[d.size] ?? plain, clock: clocks[d.clock] ?? 12 })),
      },
    });
  return (
    <>
      <div role="group" aria-label="Read" className="flex flex-wrap gap-2 mt-3.5">
        <Button name="round" onClick={() => onAct(...round)}>
          Read one round
        </Button>
        <Button name="sag" onClick={() => onAct({ read: "sag" })}>
          Sag of the arm
        </Button>
        <Button name="zero" onClick={() => onAct({ read: "zero" })}>
          Set dial up again
        </Button>
      </div>
      <form
        aria-label="Dowels"
        className="flex flex-wrap gap-3 items-end mt-3.5"
        onSubmit={(e) => {
          e.preventDefault();
          bolt();
        }}
      >
        {dowels.map((d, i) => (
          <DowelChosen
            key={i}
            name={`Dowel ${i + 1}, ${placeWords(out.given.dowels?.[i])}`}
            sizes={sizes}
            chosen={d}
            onChoose={(next) => setDowels(dowels.map((x, k) => (k === i ? next : x)))}
          />
        ))}
        <Button type="submit" look="go" name="assemble">
          Bolt it up
        </Button>
      </form>
    </>
  );
}

type Size = { value: number; unit: string };
type ChosenProps = { name: string; sizes: readonly Size[]; chosen: Chosen; onChoose: (c: Chosen) => void };

/** One dowel: which size, and where it is turned to. */
function DowelChosen({ name, sizes, chosen, onChoose }: ChosenProps) {
  const units = useUnits().data;
  return (
    <fieldset className="border border-hair px-3 pb-3 flex gap-2 items-end">
      <legend className="text-quiet text-note px-1">{name}</legend>
      <Listed
        label="Size"
        all={sizes.map((q) => (q.value === 0 ? "plain" : sayQ(q, units)))}
        at={chosen.size}
        onPick={(size) => onChoose({ ...chosen, size })}
      />
      <Listed
        label="Turned to"
        all={clocks.map(sayClock)}
        at={chosen.clock}
        onPick={(clock) => onChoose({ ...chosen, clock })}
      />
    </fieldset>
  );
}

type ListedProps = { label: string; all: readonly string[]; at: number; onPick: (i: number) => void };

const Listed = ({ label, all, at, onPick }: ListedProps) => (
  <label className="text-small text-quiet">
    {label}
    <select
      value={at}
      onChange={(e) => onPick(e.target.selectedIndex)}
      className="block min-h-11 border border-ink bg-field px-2 text-ink"
    >
      {all.map((words, i) => (
        <option key={words} value={i}>
          {words}
        </option>
      ))}
    </select>
  </label>
);

type Point = NonNullable<ActsProps["out"]["given"]["dowels"]>[number];

const placeWords = (p: Point | undefined) =>
  p ? `${p.y.value < 0 ? "lower" : "upper"} ${p.x.value < 0 ? "left" : "right"}` : "";
