import { asQuantity, inUnit, say as sayQ, unsigned } from "../../model/quantity";
import type { Quantity, Units } from "../../model/types";
import type { Face } from "../bench";
import type { Out } from ".";

/** An offset along one line, as one of its two ways. */
export const either = (q: Quantity, [ahead, back]: [string, string], units: Units) =>
  `${sayQ(unsigned(q), units)} ${q.value < 0 ? back : ahead}`;

type Before = Face<"bellhousing">["input"]["before"];
const across = ["right", "up"] as const;
const titles = { right: "to the side", up: "in height" };
const ways: Record<(typeof across)[number], [string, string]> = {
  right: ["right", "left"],
  up: ["up", "down"],
};

/** What the last setting was to leave, beside what it left. */
export function Obtained({ out, before, units }: { out: Out; before: Before; units: Units }) {
  const rows = across.flatMap((way) => {
    const [was, planned] = [asQuantity(before?.[way]), asQuantity(before?.[`expected_${way}`])];
    const is = out.offset[way];
    const alike = (q: Quantity) => ({ value: inUnit(q, is.unit, units), unit: is.unit });
    return was && planned ? [{ way, was: alike(was), planned: alike(planned), is }] : [];
  });
  if (rows.length === 0) return null;
  return (
    <table className="mt-3.5 w-full border border-ink text-note">
      <caption className="sr-only">The last setting: what it was to leave, and what it left</caption>
      <thead>
        <tr className="text-quiet text-small text-right">
          {["the bore", "before it", "predicted", "obtained"].map((title) => (
            <th key={title} scope="col" className="font-normal px-3 py-1.5 first:text-left">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="font-mono text-right">
        {rows.map(({ way, was, planned, is }) => (
          <tr key={way} className="border-t border-hair">
            <th scope="row" className="font-sans font-normal text-left px-3 py-1.5">
              {titles[way]}
            </th>
            <td className="px-3 text-quiet">{either(was, ways[way], units)}</td>
            <td className="px-3 text-blue">{either(planned, ways[way], units)}</td>
            <td className="px-3 font-semibold">{either(is, ways[way], units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
