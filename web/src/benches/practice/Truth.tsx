import { say as sayQ } from "../../model/quantity";
import type { Quantity, Units } from "../../model/types";
import { begun } from "../../model/words";
import { Verdict } from "../../parts/Verdict";
import { actWords } from "./Answers";
import type { Out } from ".";
import { Facts } from "../../parts/Facts";

type Props = { out: Out; truth: NonNullable<Out["truth"]>; units: Units };

const figures = [
  ["right", "bore to the right"],
  ["up", "bore up"],
  ["sag", "sag of the arm"],
  ["pinion_shim", "pinion shim to fit"],
  ["left_pack", "left pack to fit"],
  ["right_pack", "right pack to fit"],
  ["depth", "depth now"],
  ["backlash", "backlash now"],
  ["side_play", "side play now"],
] as const;

/** What only the program knew, what would have been better, and the best way. */
export function Truth({ out, truth, units }: Props) {
  const known = figures.flatMap(([key, name]): [string, Quantity][] => {
    const q = truth[key];
    return q ? [[name, q]] : [];
  });
  return (
    <>
      <Verdict verdict={truth.within ? "in" : "out"} says={truth.within ? "It is right" : "Not right yet"} />
      {truth.trap && <p>Beside it: {truth.trap}.</p>}
      {truth.causes && <p>Broken: {truth.causes.join(", ")}.</p>}
      <Facts of={known.map(([name, q]) => [name, sayQ(q, units)])} />
      {out.better?.map((b) => (
        <div key={b.act} className="border-l-4 border-undecided pl-3 text-note">
          <b>Better at {b.act + 1}:</b> {actWords(b.move, units)}. {begun(b.why)}.
        </div>
      ))}
      {out.best_path && (
        <details>
          <summary className="min-h-11 flex items-center text-blue underline underline-offset-3">
            The shortest way
          </summary>
          <ol className="list-decimal pl-6 text-note">
            {out.best_path.map((a, i) => (
              <li key={i}>{actWords(a, units)}</li>
            ))}
          </ol>
        </details>
      )}
    </>
  );
}
