import { say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { Lists } from "./Lists";

type Out = ResultOf<"gear-choice">;
type Choice = Out["best"][number];
type Figure = Choice["figures"][number];
type Props = Face<"gear-choice">;

/** What is in it, and the nearest of the list, side by side with what each gives and misses. */
function Drawing(p: Props) {
  const { title, out, units, rest } = p;
  return (
    <>
      <Frame label={title} block={p.step && [["sheet", p.step.sheet]]} wide>
        {out && <Ranked out={out} units={units} />}
      </Frame>
      {!p.step && <Lists face={p} />}
      {rest(["sets", "finals", "ranges", "tyres", "present", "wanted"])}
    </>
  );
}

const parts = [
  ["set", "gears"],
  ["final", "final drive"],
  ["range", "ranges"],
  ["tyre", "tyres"],
] as const;

function Ranked({ out, units }: { out: Out; units: Units }) {
  const rows = [...(out.present ? [out.present] : []), ...out.best.slice(0, 6)];
  const figures = rows[0]?.figures ?? [];
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Nearest of the list">
      <table className="w-full text-note">
        <caption className="sr-only">What is in it, and the nearest of the list</caption>
        <thead>
          <tr className="text-quiet text-small text-left">
            {["", ...parts.map(([, name]) => name), ...figures.map(titleOf), "off at worst"].map(
              (name, i) => (
                <th key={i} scope="col" className="font-normal px-3 py-1.5">
                  {name || <span className="sr-only">place</span>}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <Row
              key={i}
              row={row}
              units={units}
              place={out.present ? i : i + 1}
              best={i === (out.present ? 1 : 0)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowProps = { row: Choice; units: Units; place: number; best: boolean };

const Row = ({ row, units, place, best }: RowProps) => (
  <tr className={`border-t border-hair ${best ? "bg-tint" : ""}`}>
    <th scope="row" className="font-normal text-left text-quiet px-3 py-1.5">
      {place === 0 ? "is" : place}
    </th>
    {parts.map(([key]) => (
      <td key={key} className={`px-3 ${row.changes.includes(key) ? "font-semibold text-blue" : ""}`}>
        {row[key] ?? ""}
      </td>
    ))}
    {row.figures.map((f, k) => (
      <td key={k} className="px-3 font-mono whitespace-nowrap">
        {sayFigure(f, units)}
        {f.miss_percent > 0.05 && (
          <span className="block text-small text-out">{f.miss_percent.toFixed(1)} % off</span>
        )}
      </td>
    ))}
    <td className="px-3 font-mono font-semibold whitespace-nowrap">{row.score_percent.toFixed(1)} %</td>
  </tr>
);

const titles: Record<string, string> = {
  engine_speed_at: "engine",
  speed_at: "speed",
  crawl_at_least: "crawls",
  speedometer_within: "speedometer shows",
};
const titleOf = (f: Figure) => titles[f.kind] ?? f.kind;

function sayFigure(f: Figure, units: Units): string {
  if (f.engine_speed) return sayQ(f.engine_speed, units);
  if (f.road_speed) return sayQ(f.road_speed, units, 1);
  if (f.ratio !== undefined) return `${f.ratio.toFixed(1)} : 1`;
  const percent = f.percent ?? 0;
  if (Math.abs(percent) < 0.05) return "true";
  return `${percent > 0 ? "+" : ""}${percent.toFixed(1)} %`.replace("-", "−");
}

/** The nearest, what changes for it, and what could not be tried. */
function Meaning({ out }: Props) {
  if (!out) return null;
  return (
    <>
      <NextMove says={out.says} />
      <p className="text-quiet text-note mt-2">
        {out.tried} combinations tried.
        {out.left_out.length > 0 && ` Without the gear: ${out.left_out.join(", ")}.`}
      </p>
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Measure the roll-out of a loaded tyre: one turn on the floor, a mark at each end.",
  wrong: "A speedometer driven behind the transfer case's low range, or by the wheels, follows other ratios.",
  why: "What counts is the worst miss of all you want: one wish is not bought with another.",
};

export default bench<"gear-choice">({ calc: "gear-choice", Drawing, Meaning });
