import { millimetres } from "../../model/drawn";
import { Field } from "../Field";
import { cells } from "./cells";
import type { DrawnProps } from "./index";

const half = 70;

const fields = [
  { name: "faces", label: "Faces" },
  { name: "mu", label: "Friction" },
  { name: "outer_diameter", label: "Outside" },
  { name: "inner_diameter", label: "Inside" },
  { name: "clamp", label: "Clamp load" },
] as const;

/** The kits that fit, each with its lining drawn: all on one scale, so that one sees which is larger. */
export function DiscsDrawn({ rows, typed, onType }: DrawnProps) {
  const size = (i: number, name: string) => millimetres(typed[`${i}.${name}`]);
  const most = Math.max(1, ...rows.map((_, i) => size(i, "outer_diameter") ?? 0));
  return (
    <ul className="grid gap-3 grid-cols-[repeat(auto-fit,minmax(300px,1fr))]">
      {rows.map((_, i) => {
        const cell = cells({ typed, onType }, i);
        const [out, inside] = [size(i, "outer_diameter"), size(i, "inner_diameter")];
        return (
          <li key={i} className="border border-ink bg-sheet p-3 flex flex-wrap gap-3">
            <Field label="Kit" {...cell("name")} autoFocus={i === 0} className="basis-full" />
            <Lining out={out && (out / most) * (half - 4)} inside={inside && (inside / most) * (half - 4)} />
            <div className="grid grid-cols-2 gap-2 grow basis-[130px] content-start">
              {fields.map((f) => (
                <Field key={f.name} label={f.label} {...cell(f.name)} inputMode="decimal" />
              ))}
            </div>
          </li>
        );
      })}
    </ul>
  );
}

/** A lining between its two circles; dashed while its sizes are not said. */
function Lining({ out, inside }: { out: number | undefined; inside: number | undefined }) {
  const known = out !== undefined && inside !== undefined && inside < out;
  const [r, bore] = known ? [out, inside] : [half - 4, half * 0.6];
  return (
    <svg viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`} className="size-[136px]" aria-hidden="true">
      <path
        d={`M${-r} 0a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0M${-bore} 0a${bore} ${bore} 0 1 1 ${2 * bore} 0a${bore} ${bore} 0 1 1 ${-2 * bore} 0`}
        fill={known ? "var(--tint)" : "none"}
        stroke={known ? "var(--ink)" : "var(--quiet)"}
        strokeDasharray={known ? undefined : "4 4"}
      />
      <path d={`M${-half} 0H${half}M0 ${-half}V${half}`} stroke="var(--hair)" strokeDasharray="9 3 2 3" />
    </svg>
  );
}
