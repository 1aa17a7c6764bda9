import { useState } from "react";
import {
  doneWords,
  explanations,
  type Observed,
  observed,
  seenWords,
  shaftWords,
  suspects,
  untouched,
  wayWords,
} from "./motion";
import type { ResultOf } from "../../model/results";
import { begun } from "../../model/words";
import { DrivelineDrawn, type Mark } from "../../parts/drawn/DrivelineDrawn";
import { Frame } from "../../parts/Frame";
import { bench, type Face, mayAt } from "../bench";
import { Touch } from "./Touch";

type Props = Face<"driveline">;
type Out = ResultOf<"driveline">;

/** The line from above: what was turned and what it did, suspects shaded, what is cleared hatched. */
function Drawing({ title, out, input, step, questions }: Props) {
  const [at, setAt] = useState<string | undefined>();
  const [made, setMade] = useState<Observed>(untouched);
  const whole = observed(made);
  const kept = input.observations ?? [];
  const trying = whole && step?.preview ? [whole] : [];
  const mayTouch = mayAt(step, "reading");
  return (
    <>
      <Frame label={title} wide block={step && [["sheet", step.sheet]]} side={<Key out={out} />}>
        <DrivelineDrawn
          members={input.members ?? []}
          marks={marksOf(out, whole || made.turned ? [...kept, made] : kept, at)}
          onTouch={mayTouch ? (p) => p.what !== "member" && setAt(p.name) : undefined}
        />
      </Frame>
      {mayTouch && step && <Touch at={at} made={made} onMake={setMade} step={step} input={input} />}
      {questions}
      <Trials out={out} kept={kept} trying={trying} />
    </>
  );
}

type Seen = NonNullable<Props["input"]["observations"]>;

/** Later marks stand over earlier ones: what was done, how it moved, what is cleared, suspected, touched. */
function marksOf(out: Out | undefined, seen: Seen, at: string | undefined): Record<string, Mark> {
  const marks: Record<string, Mark> = {};
  const put = (names: Iterable<string | undefined>, more: Mark) => {
    for (const name of names) if (name) marks[name] = { ...marks[name], ...more };
  };
  for (const o of seen) {
    put(turnedOf(o), { says: "turned" });
    put(o.held ?? [], { says: "held" });
    for (const m of movedOf(o)) put([m.shaft], { says: wayWords(m.way) });
  }
  seen.slice(-1).forEach((last) => moving(put, last));
  for (const m of out?.nominal[seen.length - 1]?.moved ?? []) put([m.shaft], { sound: m.way });
  const only = (names: Iterable<string>, look: Mark["look"]) => {
    for (const name of names) marks[name] = { ...(look && { look }) };
  };
  only(out?.cleared ?? [], "cleared");
  only(out ? suspects(out).keys() : [], "suspect");
  put([at], { look: "chosen" });
  return marks;
}

/** How the last observation moved. */
function moving(put: (names: (string | undefined)[], more: Mark) => void, last: Seen[number]) {
  put(turnedOf(last), { motion: "turned" });
  put(last.held ?? [], { motion: "held" });
  for (const m of movedOf(last)) put([m.shaft], { motion: m.way });
}

const turnedOf = (o: Seen[number]) => [o.turned, ...(o.with ?? [])];
const movedOf = (o: Seen[number]) =>
  (o.moved ?? []).flatMap(({ shaft, way }) => (way ? [{ shaft, way }] : []));

function Key({ out }: { out: Out | undefined }) {
  if (!out)
    return (
      <p className="px-3 py-2 text-quiet text-note">
        Nothing turned yet. Touch a wheel in the drawing to start.
      </p>
    );
  const rows = [
    ["suspect", "var(--out)", suspects(out).size],
    ["cleared", "var(--in)", out.cleared.length],
  ] as const;
  return (
    <ul className="px-3 py-2 text-note flex flex-wrap gap-x-6">
      {rows.map(([word, colour, n]) => (
        <li key={word} className="flex gap-2 items-center">
          <svg width={22} height={12} aria-hidden="true">
            <rect width={22} height={12} fill="var(--sheet)" stroke="var(--ink)" />
            {[2, 9, 16].map((x) => (
              <path
                key={x}
                d={word === "suspect" ? `M${x} 12 ${x + 6} 0` : `M${x} 0 ${x + 6} 12`}
                stroke={colour}
                strokeWidth={word === "suspect" ? 3 : 1.4}
              />
            ))}
          </svg>
          {word}: {n}
        </li>
      ))}
    </ul>
  );
}

/** Every observation, beside what a sound line would have done. */
function Trials({ out, kept, trying }: { out: Out | undefined; kept: Seen; trying: Seen }) {
  const seen = [...kept, ...trying];
  const guessed = trying.length > 0 ? kept.length : -1;
  if (seen.length === 0) return null;
  return (
    <table className="w-full mt-3.5 border border-ink text-note">
      <caption className="sr-only">What was turned, what it did, what a sound driveline does</caption>
      <thead>
        <tr className="text-left text-quiet text-small border-b border-ink">
          {["no.", "turned, and result", "sound driveline"].map((h, i) => (
            <th key={h} scope="col" className={`font-normal px-3 py-1 ${i === 0 ? "w-8" : ""}`}>
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {seen.map((o, i) => {
          const sound = out?.nominal[i];
          return (
            <tr
              key={i}
              className={`border-b border-hair last:border-b-0 align-top ${i === guessed ? "bg-tint/60 text-blue" : ""}`}
            >
              <td className="px-3 py-1.5 font-mono font-medium">{i === guessed ? "if" : i + 1}</td>
              <td className="px-3 py-1.5">
                {doneWords(o)}: {seenWords(o.moved, o.felt) || "not answered yet"}
              </td>
              <td className={`px-3 py-1.5 ${sound && !sound.fits ? "text-out font-semibold" : "text-quiet"}`}>
                {sound ? `${seenWords(sound.moved, sound.felt)}${sound.fits ? ": the same" : ""}` : ""}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What explains it: alone, in pairs, and what is cleared. */
function Meaning({ out, step, input }: Props) {
  if (!out) return null;
  const list = explanations(out);
  const alone = out.singles.length;
  const name = new Map((input.members ?? []).map((m) => [m.id, m.says || shaftWords(m.id)]));
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">{headOf(out, step?.preview === true, list.length)}</p>
        <p className="text-title font-semibold leading-tight">
          {out.sound ? "Nothing wrong, as far as this shows" : (list[0] ?? "No fault explains it")}
        </p>
        <p className="mt-2">{out.clash ?? out.says}</p>
      </div>
      {list.length > 1 && (
        <ol className="border-t border-ink">
          {list.slice(0, 8).map((says, i) => (
            <li key={says} className="border-b border-hair py-1 flex justify-between gap-3">
              <span>{says}</span>
              <span className="text-quiet">{i < alone ? "alone" : "a pair"}</span>
            </li>
          ))}
        </ol>
      )}
      {list.length > 8 && <p className="text-quiet text-note">and {list.length - 8} more</p>}
      {out.cleared.length > 0 && (
        <p className="text-note">
          <span className="text-quiet">Ruled out:</span>{" "}
          {out.cleared.map((id) => name.get(id) ?? id).join(", ")}
        </p>
      )}
    </>
  );
}

function headOf(out: NonNullable<Out>, preview: boolean, n: number): string {
  const says = out.sound
    ? "nothing has to be wrong"
    : n === 0
      ? "no fault explains everything seen"
      : n === 1
        ? "one fault explains everything so far"
        : `${n} possible faults explain everything so far`;
  return preview ? `With this, ${says}` : begun(says);
}

export default bench<"driveline">({ calc: "driveline", Drawing, Meaning });
