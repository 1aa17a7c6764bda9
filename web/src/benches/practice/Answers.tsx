import { useUnits } from "../../data/calc";
import { asQuantity, say as sayQ, sayClock } from "../../model/quantity";
import type { Units } from "../../model/types";
import type { Act, Out } from ".";

type Props = { out: Out; acts: readonly Act[] };

/** What was done and what came of it, the latest first. */
export function Answers({ out, acts }: Props) {
  const units = useUnits().data;
  if (acts.length === 0) return null;
  return (
    <section aria-label="What was done" className="mt-3.5">
      <ol reversed className="border border-ink">
        {acts
          .map((act, i) => ({ act, i, answer: out.answers[i] }))
          .toReversed()
          .map(({ act, i, answer }) => (
            <li key={i} className="flex flex-wrap gap-x-4 px-4 py-2 border-b border-hair last:border-b-0">
              <span className="text-quiet w-8">{i + 1}</span>
              <span className="grow basis-[200px]">{actWords(act, units)}</span>
              <span className="font-mono">{answer && answerWords(answer, units)}</span>
              <span className="text-quiet text-note w-16 text-right">{answer?.minutes} min</span>
            </li>
          ))}
      </ol>
    </section>
  );
}

/** What an instrument reads, as one would say it. */
export const readWords: Record<string, string> = {
  depth: "depth of the pinion's head",
  backlash: "backlash",
  side_play: "side play",
  slack: "both packs where the play just goes",
  turning: "turning torque",
  runout: "runout of the ring",
  pattern: "contact pattern",
  zero: "indicator set up anew",
  dial: "dial in the bore",
  sag: "sag of the arm",
};

/** An act as one would say it. */
export function actWords(act: Act, units: Units): string {
  if (act.order) return `ordered and fitted: ${act.order}`;
  if (act.read) return `${readWords[act.read] ?? act.read}${act.at === undefined ? "" : ` at ${act.at}`}`;
  const a = act.assemble;
  if (!a) return "";
  const size = (said: unknown) => {
    const q = asQuantity(said);
    return q ? sayQ(q, units) : "";
  };
  return [
    a.pinion_shim && `pinion shim ${size(a.pinion_shim)}`,
    a.left && `left ${size(a.left)}`,
    a.right && `right ${size(a.right)}`,
    ...(a.dowels ?? []).map((d) => `dowel ${size(d.size)} at ${sayClock(d.clock)}`),
    a.clean && "cleaned first",
    a.swap_caps && "caps changed over",
  ]
    .filter(Boolean)
    .join(", ");
}

function answerWords(answer: Out["answers"][number], units: Units): string {
  if (answer.reading) return sayQ(answer.reading, units);
  if (answer.drive && answer.coast)
    return `drive ${markWords(answer.drive)}; coast ${markWords(answer.coast)}`;
  return answer.says ?? "";
}

type Mark = NonNullable<Out["answers"][number]["drive"]>;

/** Where a pattern lies, as one would say it. */
function markWords({ u, v }: Mark): string {
  const along = Math.abs(u) < 0.2 ? "" : u < 0 ? "toe" : "heel";
  const up = Math.abs(v) < 0.2 ? "" : v < 0 ? "root" : "face";
  return [up, along].filter(Boolean).join(", ") || "middle";
}
