import { inUnit, say as sayQ, sayNumber } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { Finding } from "../../parts/Finding";
import { Frame } from "../../parts/Frame";
import { bench, type Face } from "../bench";
import { Rays } from "./Rays";
import { Facts } from "../../parts/Facts";

type Props = Face<"gearing">;
export type Out = ResultOf<"gearing">;

/** Speed over engine speed: a ray a gear, and what the engine falls by at each shift. */
function Drawing({ title, out, input, step, units, questions }: Props) {
  const tyre = input.tyre?.size ?? "as measured";
  return (
    <>
      <Frame
        label={title}
        block={[
          ["roll-out", out ? sayRollOut(out.rolling_circumference, units) : ""],
          ["tyre", tyre],
          ...(step ? [["sheet", step.sheet] as const] : []),
        ]}
        side={<Gears out={out} units={units} />}
      >
        <Rays out={out} input={input} units={units} />
      </Frame>
      {questions}
    </>
  );
}

/** A roll-out is said in metres or inches. */
const sayRollOut = (q: Quantity, units: Units) =>
  q.unit === "mm" ? `${inUnit(q, "m", units).toFixed(3)} m` : sayQ(q, units);

/** The gears with their ratios, in words a shop would use. */
function Gears({ out, units }: { out: Out | undefined; units: Units }) {
  return (
    <table className="w-full text-small">
      <caption className="sr-only">Gears</caption>
      <thead>
        <tr className="text-quiet text-left border-b border-hair">
          {["gear", "in all", "per 1000 rpm"].map((x) => (
            <th key={x} scope="col" className="font-normal px-3 py-1">
              {x}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {out?.gears.map((g) => (
          <tr key={`${g.range} ${g.gear}`} className="border-b border-hair">
            <th scope="row" className="font-semibold text-left px-3 py-1">
              {g.gear}
              {g.range ? `, ${g.range}` : ""}
            </th>
            <td className="font-mono px-3">{g.overall.toFixed(2)}</td>
            <td className="font-mono px-3">{sayQ(g.per_1000_rpm, units, 1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the ratios come to: the top gear at the limit, the crawl, the widest step. */
function Meaning({ out, step, units }: Props) {
  const top = out?.gears.findLast((g) => g.range === out.gears[0]?.range);
  if (!out || !top) return null;
  const widest = out.gears
    .filter((g) => g.step_from_last)
    .toSorted((a, b) => (b.step_from_last ?? 0) - (a.step_from_last ?? 0))[0];
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">
          {step?.preview ? "With this, 1000 rpm in top gear gives" : "1000 rpm in top gear gives"}
        </p>
        <p className="font-mono font-medium text-figure leading-none tracking-tight">
          {sayNumber(top.per_1000_rpm, units, 1)}
          <span className="text-head tracking-normal pl-2.5">{top.per_1000_rpm.unit}</span>
        </p>
        {top.at_engine_limit && (
          <p className="text-quiet mt-1.5 text-small">
            {sayQ(top.at_engine_limit, units)} at the engine's limit
          </p>
        )}
      </div>
      <Facts
        of={[
          ["top gear, overall", top.overall.toFixed(2)],
          ["crawl ratio, lowest gear", `${out.crawl_ratio.toFixed(1)} to 1`],
          [
            "biggest step between gears",
            widest
              ? `into ${widest.gear}, falls by ${Math.round(100 * (1 - 1 / (widest.step_from_last ?? 1)))} %`
              : "none",
          ],
          [
            "final drive teeth",
            out.final_drive_hunting === undefined || out.final_drive_hunting === null
              ? "not known"
              : out.final_drive_hunting
                ? "share the wear evenly"
                : "always meet the same teeth",
          ],
        ]}
      />
      {out.findings.map((f) => (
        <Finding key={f} says={f} />
      ))}
      <p className="text-quiet text-small">
        Roll-out is {out.rolling_from}. {out.method}: {out.source.join("; ")}
      </p>
    </>
  );
}

export default bench<"gearing">({ calc: "gearing", Drawing, Meaning });
