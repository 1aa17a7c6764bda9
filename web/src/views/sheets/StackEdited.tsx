import { useState } from "react";
import { changed, moved, type Part, type PartChoices, typedPart } from "../../model/stack";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";

type Props = { parts: readonly Part[]; choices: PartChoices; onParts: (parts: Part[]) => void };

/** The parts in the order in which they come off: typed in one line each, moved, and the way each faces. */
export function StackEdited({ parts, choices, onParts }: Props) {
  const [line, setLine] = useState("");
  const add = () => {
    const part = typedPart(line, parts, choices);
    if (!part) return;
    onParts([...parts, part]);
    setLine("");
  };
  return (
    <div className="flex flex-col gap-2">
      <ol className="border border-hair">
        {parts.map((p, i) => (
          <PartLine
            key={p.id}
            part={p}
            n={i + 1}
            choices={choices}
            onChange={(more) => onParts(changed(parts, i, more))}
            onMove={(by) => onParts(moved(parts, i, by))}
            onOut={() => onParts(parts.filter((_, k) => k !== i))}
          />
        ))}
      </ol>
      <div className="flex flex-wrap gap-2 items-end">
        <Field
          label="Next part to come off: name, mark, which way it faces"
          value={line}
          onValue={setLine}
          className="grow basis-[320px]"
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            add();
          }}
        />
        <Button disabled={line.trim() === ""} onClick={add}>
          Add part
        </Button>
      </div>
    </div>
  );
}

type PartProps = {
  part: Part;
  n: number;
  choices: PartChoices;
  onChange: (more: Partial<Part>) => void;
  onMove: (by: -1 | 1) => void;
  onOut: () => void;
};

function PartLine({ part: p, n, choices, onChange, onMove, onOut }: PartProps) {
  const plain = "min-h-11 px-2 bg-field border-l border-hair";
  return (
    <li className="flex flex-wrap items-center border-b border-hair last:border-b-0">
      <span className="w-9 text-right pr-2 font-mono text-quiet">{n}</span>
      <input
        aria-label={`Part ${n}: name`}
        value={p.name}
        onChange={(e) => onChange({ name: e.target.value })}
        onKeyDown={(e) => {
          if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return;
          e.preventDefault();
          onMove(e.key === "ArrowUp" ? -1 : 1);
        }}
        className={`${plain} grow basis-[180px] min-w-0`}
      />
      <input
        aria-label={`${p.name}: its direction mark`}
        value={p.faces ?? ""}
        placeholder="direction mark"
        onChange={(e) => onChange({ faces: e.target.value })}
        className={`${plain} grow basis-[140px] min-w-0`}
      />
      <Pick
        label={`${p.name}: faces`}
        none="faces"
        list={choices["facing"] ?? []}
        chosen={p.facing}
        onPick={(facing) => onChange({ facing })}
      />
      <Pick
        label={`${p.name}: drawn as`}
        none="drawn as"
        list={choices["shape"] ?? []}
        chosen={p.shape}
        onPick={(shape) => onChange({ shape })}
      />
      <label className="min-h-11 px-2 flex items-center gap-2 border-l border-hair">
        <input
          type="checkbox"
          checked={p.once ?? false}
          onChange={(e) => onChange({ once: e.target.checked })}
        />
        always replace
      </label>
      <Small label={`${p.name}: move earlier`} text="↑" onClick={() => onMove(-1)} />
      <Small label={`${p.name}: move later`} text="↓" onClick={() => onMove(1)} />
      <Small label={`Remove ${p.name}`} text="×" onClick={onOut} />
    </li>
  );
}

function Small({ label, text, onClick }: { label: string; text: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      onClick={onClick}
      className="size-11 text-center border-l border-hair"
    >
      {text}
    </button>
  );
}

type PickProps = {
  label: string;
  none: string;
  list: readonly string[];
  chosen: string | undefined;
  onPick: (id: string) => void;
};

function Pick({ label, none, list, chosen, onPick }: PickProps) {
  return (
    <select
      aria-label={label}
      value={chosen ?? ""}
      onChange={(e) => onPick(e.target.value)}
      className="min-h-11 px-1 bg-field border-l border-hair"
    >
      <option value="">{none}</option>
      {list.map((x) => (
        <option key={x} value={x}>
          {x}
        </option>
      ))}
    </select>
  );
}
