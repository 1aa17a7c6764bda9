import { say as sayQ, unsigned } from "../../model/quantity";
import { packWords } from "../../model/pack";
import type { PackOffered, Units } from "../../model/types";
import { Verdict } from "../../parts/Verdict";
import type { Face } from "../bench";
import { GivenAt } from "../given";
import type { FloatOut } from ".";

type Props = Face<"end-float">;

const typed = [
  ["name", "shaft"],
  ["readings[0]", "float read"],
  ["readings[1]", "again"],
  ["trial_pack", "pack in it"],
  ["target_min", "from"],
  ["target_max", "to"],
] as const;

/** Packs at both ends, and the further shafts of the box, all out of one drawer. */
export function Shafts(p: Props) {
  const { out, input, units } = p;
  const many = (input.others?.length ?? 0) + 1;
  return (
    <>
      {out?.both_sides && <Both sides={out.both_sides} units={units} />}
      <div
        className="overflow-x-auto mt-3.5 border border-ink"
        tabIndex={0}
        role="group"
        aria-label="Further shafts"
      >
        <table className="w-full text-note">
          <caption className="sr-only">Further shafts, shimmed from the same drawer</caption>
          <thead>
            <tr className="text-quiet text-small">
              {[...typed.map(([, name]) => (name === "shaft" ? "further shaft" : name)), "pack to fit"].map(
                (name) => (
                  <th key={name} scope="col" className="font-normal text-left px-2 py-1.5">
                    {name}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: many }, (_, i) => (
              <tr key={i} className="border-t border-hair">
                {typed.map(([key, name]) => (
                  <td key={key} className="px-1 py-1">
                    <GivenAt face={p} path={`others[${i}].${key}`} label={`shaft ${i + 2}, ${name}`} bare />
                  </td>
                ))}
                <td className="px-2 font-mono">{toFit(out?.others?.[i], units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** What a shaft needs: the best pack, or what to order. */
function toFit(shaft: NonNullable<FloatOut["others"]>[number] | undefined, units: Units) {
  if (!shaft) return null;
  return (
    <>
      {shaft.pack ? `${piecesOf(shaft.pack, units)}, leaves ${sayQ(shaft.pack.float, units)} ` : "leave it "}
      <Verdict verdict={shaft.pack?.verdict ?? shaft.verdict} units={units} />
    </>
  );
}

const piecesOf = ({ pieces }: Pick<PackOffered, "pieces">, units: Units) =>
  pieces.length === 0 ? "none" : packWords(pieces, (q) => sayQ(q, units));

/** Which pack goes to which end, and where the shaft then stands. */
const Both = ({ sides, units }: { sides: NonNullable<FloatOut["both_sides"]>; units: Units }) => (
  <p className="mt-3.5 border border-ink bg-tint px-3.5 py-2 text-body">
    Near end <b className="font-mono">{piecesOf(sides.near, units)}</b>, far end{" "}
    <b className="font-mono">{piecesOf(sides.far, units)}</b>: leaves {sayQ(sides.float, units)},{" "}
    {sides.moves.value === 0
      ? "the shaft stays where it is"
      : `the shaft goes ${sayQ(unsigned(sides.moves), units)} ${sides.moves.value > 0 ? "to the far end" : "to the near end"}`}{" "}
    <Verdict verdict={sides.verdict} units={units} />
  </p>
);
