import { useId, useState } from "react";
import { heldOf, heldText, holding, idNamed, type KnownPart, partNamed } from "../../model/sold";
import { Button } from "../Button";
import { Field } from "../Field";
import { cells } from "./cells";
import type { DrawnProps } from "./index";

/** What is asked of anything that is bought. */
const price = [
  { name: "supplier", label: "From" },
  { name: "price", label: "Price" },
  { name: "lead_days", label: "Days until it comes" },
];

/** Kits as suppliers sell them: each with the parts that are in it, picked by their names. */
export function KitsDrawn({ rows, typed, onType, parts }: DrawnProps) {
  return (
    <ul className="grid gap-3 grid-cols-[repeat(auto-fit,minmax(320px,1fr))]">
      {rows.map((_, i) => (
        <li key={i} className="border border-ink bg-sheet p-3 flex flex-wrap gap-3 content-start">
          <Field
            label="Kit"
            {...cells({ typed, onType }, i)("name")}
            autoFocus={i === 0}
            className="basis-full"
          />
          <Bought i={i} typed={typed} onType={onType} fields={price} />
          <Holds
            {...cells({ typed, onType }, i)("holds")}
            parts={parts}
            kit={typed[`${i}.name`] || `kit ${i + 1}`}
          />
        </li>
      ))}
    </ul>
  );
}

/** Parts as they are sold one by one, or so many in a pack. */
export function SinglesDrawn({ rows, typed, onType, parts }: DrawnProps) {
  const fields = [
    ...price,
    { name: "pack", label: "Pieces in a pack" },
    { name: "compare", label: "Compare with the old part: splines, bolt size" },
  ];
  return (
    <ul className="grid gap-3 grid-cols-[repeat(auto-fit,minmax(320px,1fr))]">
      {rows.map((_, i) => (
        <li key={i} className="border border-ink bg-sheet p-3 flex flex-wrap gap-3 content-start">
          <PartField label="Part" {...cells({ typed, onType }, i)("part")} parts={parts} />
          <Bought i={i} typed={typed} onType={onType} fields={fields} />
        </li>
      ))}
    </ul>
  );
}

type BoughtProps = Pick<DrawnProps, "typed" | "onType"> & {
  i: number;
  fields: readonly { name: string; label: string }[];
};

const Bought = ({ i, typed, onType, fields }: BoughtProps) =>
  fields.map((f) => (
    <Field
      key={f.name}
      label={f.label}
      {...cells({ typed, onType }, i)(f.name)}
      inputMode={f.name === "supplier" || f.name === "compare" ? "text" : "decimal"}
      className={f.name === "supplier" || f.name === "compare" ? "grow basis-[150px]" : "basis-[110px] grow"}
    />
  ));

type PartFieldProps = {
  label: string;
  value: string;
  onValue: (id: string) => void;
  parts: readonly KnownPart[];
};

/** A part by its name; what is kept is its id. */
function PartField({ label, value, onValue, parts }: PartFieldProps) {
  const [name, setName] = useState(value === "" ? "" : partNamed(parts, value));
  const list = useId();
  return (
    <>
      <Field
        label={label}
        value={name}
        onValue={(v) => {
          setName(v);
          onValue(idNamed(parts, v));
        }}
        list={list}
        className="basis-full"
      />
      <Names id={list} parts={parts} />
    </>
  );
}

const Names = ({ id, parts }: { id: string; parts: readonly KnownPart[] }) => (
  <datalist id={id}>
    {parts.map((p) => (
      <option key={p.id}>{p.name}</option>
    ))}
  </datalist>
);

type HoldsProps = {
  value: string;
  onValue: (text: string) => void;
  parts: readonly KnownPart[];
  kit: string;
};

function Holds({ value, onValue, parts, kit }: HoldsProps) {
  const [more, setMore] = useState("");
  const list = useId();
  const held = heldOf(value);
  const add = () => {
    onValue(heldText(holding(held, idNamed(parts, more), 1)));
    setMore("");
  };
  return (
    <div className="basis-full flex flex-col gap-1.5" role="group" aria-label={`In ${kit}`}>
      <p className="text-small text-quiet">In it</p>
      <ul className="border-t border-hair empty:hidden">
        {held.map((h) => {
          const name = partNamed(parts, h.id);
          const set = (pieces: number) => onValue(heldText(holding(held, h.id, pieces)));
          return (
            <li key={h.id} className="flex items-center border-b border-hair">
              <span className="grow">{name}</span>
              <Step label={`One ${name} less`} text="−" onClick={() => set(h.pieces - 1)} />
              <span className="font-mono w-9 text-center">{h.pieces}</span>
              <Step label={`One ${name} more`} text="+" onClick={() => set(h.pieces + 1)} />
            </li>
          );
        })}
      </ul>
      <div className="flex gap-2 items-end">
        <Field
          label="Add a part"
          value={more}
          onValue={setMore}
          onKeyDown={(e) => {
            if (e.key !== "Enter" || more.trim() === "") return;
            e.preventDefault();
            add();
          }}
          list={list}
          className="grow"
        />
        <Button disabled={more.trim() === ""} onClick={add}>
          Add
        </Button>
        <Names id={list} parts={parts} />
      </div>
    </div>
  );
}

const Step = ({ label, text, onClick }: { label: string; text: string; onClick: () => void }) => (
  <button
    type="button"
    aria-label={label}
    className="min-h-11 min-w-11 font-mono text-head"
    onClick={onClick}
  >
    {text}
  </button>
);
