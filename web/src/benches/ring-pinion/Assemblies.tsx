import { believed } from "../../model/json";
import { asQuantity, say as sayQ } from "../../model/quantity";
import type { Units } from "../../model/types";
import { Button } from "../../parts/Button";
import { type Face } from "../bench";
import { asksFor, GivenAt } from "../given";
import type { Out, Trials } from ".";

type Props = { trials: Trials; out: Out | undefined; face: Face<"ring-pinion"> };

const rows = [
  ["pinion_shim", "pinion shim", "pinion_shim"],
  ["left", "left pack", "left"],
  ["right", "right pack", "right"],
  ["depth", "depth", "expected_depth"],
  ["gauge", "depth tool reads", undefined],
  ["backlash", "backlash", "expected_backlash"],
  ["side_play", "side play", "expected_side_play"],
  ["zero_play_packs", "packs where the play goes", undefined],
] as const;

/** Each assembly a column, what was put in and what it gave; the next one is blue. */
export function Assemblies({ trials, out, face }: Props) {
  const { units, step, input, onInput } = face;
  const next = out && out.stands !== "in" && out.stands !== "undecided" ? out : undefined;
  const shown = rows.filter(
    ([key]) => !step || asksFor(face, `trials.${key}`) || trials.some((t) => asQuantity(t[key])),
  );
  return (
    <div
      className="overflow-x-auto mt-3.5 border border-ink"
      tabIndex={0}
      role="group"
      aria-label="Assemblies"
    >
      <table className="w-full text-note">
        <caption className="sr-only">Assemblies so far, and the next one</caption>
        <Head many={trials.length} next={next !== undefined} />
        <tbody>
          {shown.map(([key, name, then]) => (
            <tr key={key} className="border-t border-hair">
              <th scope="row" className="font-normal text-left px-3 py-1.5">
                {name}
              </th>
              {trials.map((t, i) => (
                <td key={i} className="font-mono text-right px-3">
                  {step && !(i === trials.length - 1 && asksFor(face, `trials.${key}`)) ? (
                    said(t[key], units)
                  ) : (
                    <GivenAt
                      face={face}
                      path={step ? `trials.${key}` : `trials[${i}].${key}`}
                      label={`assembly ${i + 1}, ${name}`}
                      bare
                    />
                  )}
                </td>
              ))}
              {next && (
                <td className="font-mono font-semibold text-right px-3 bg-tint text-blue">
                  {then && said(next[then], units)}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {next && !step && onInput && (
        <p className="p-2 border-t border-hair text-right">
          <Button
            look="go"
            name="put-in"
            onClick={() => onInput({ ...input, trials: [...trials, packsOf(next, units)] })}
          >
            Put it in
          </Button>
        </p>
      )}
    </div>
  );
}

const Head = ({ many, next }: { many: number; next: boolean }) => (
  <thead>
    <tr className="text-quiet text-small">
      <th scope="col" className="font-normal text-left px-3 py-1.5">
        in it, and read
      </th>
      {Array.from({ length: many }, (_, i) => (
        <th key={i} scope="col" className="font-normal text-right px-3 py-1.5">
          assembly {i + 1}
          {i === many - 1 && ", now"}
        </th>
      ))}
      {next && (
        <th scope="col" className="font-normal text-right px-3 py-1.5 bg-tint text-blue">
          assembly {many + 1}, proposed
        </th>
      )}
    </tr>
  </thead>
);

/** The next assembly, before anything was read on it. */
const packsOf = (next: Out, units: Units) =>
  believed<Trials[number]>({
    pinion_shim: said(next.pinion_shim, units),
    left: said(next.left, units),
    right: said(next.right, units),
  });

const said = (q: unknown, units: Units) => {
  const known = asQuantity(q);
  return known ? sayQ(known, units) : "";
};
