import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { Quantity } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { LimitLine } from "../../parts/LimitLine";
import { bench, type Face } from "../bench";
import { GivenAt, Over } from "../given";

type Props = Face<"clutch-wear">;

/** The disc in section: its linings as thick as new, as now, and as thin as they may get. */
function Drawing(p: Props) {
  const { title, out, input, step, rest } = p;
  const places = [
    { x: 640, y: 40, shows: <GivenAt face={p} path="new" label="new" /> },
    { x: 640, y: 110, shows: <GivenAt face={p} path="now" label="now" /> },
    { x: 640, y: 180, shows: <GivenAt face={p} path="limit" label="at least" /> },
    { x: 790, y: 110, shows: <GivenAt face={p} path="distance" label="run since new" /> },
  ];
  return (
    <>
      <Frame label={title} block={step && [["sheet", step.sheet]]} wide>
        <Over
          width={900}
          height={270}
          says={`The disc in section. ${out?.says ?? "Not measured yet"}`}
          places={step ? places.slice(0, 3) : places}
        >
          <Section
            now={asQuantity(input.now)}
            fresh={asQuantity(input.new)}
            limit={asQuantity(input.limit)}
            units={p.units}
            worn={out?.verdict === "out"}
          />
        </Over>
      </Frame>
      {rest(["new", "now", "limit", "distance"])}
    </>
  );
}

type SectionProps = {
  now: Quantity | undefined;
  fresh: Quantity | undefined;
  limit: Quantity | undefined;
  units: Props["units"];
  worn: boolean;
};

/** Thickness upward, drawn to one scale; the lining is symmetric about its plate. */
function Section({ now, fresh, limit, units, worn }: SectionProps) {
  const full = fresh ?? now;
  if (!full) return null;
  const high = (q: Quantity) => (150 * inUnit(q, full.unit, units)) / full.value;
  const band = (q: Quantity, className: string, more = {}) => (
    <rect x="90" y={135 - high(q) / 2} width="400" height={high(q)} className={className} {...more} />
  );
  return (
    <g strokeWidth="1.6">
      {band(full, "fill-none stroke-quiet", { strokeDasharray: "5 4" })}
      {now && band(now, worn ? "fill-out/15 stroke-out" : "fill-sheet stroke-ink")}
      {limit && band(limit, "fill-none stroke-out", { strokeDasharray: "2 3" })}
      <rect x="60" y="131" width="460" height="8" className="fill-ink" />
      {[150, 290, 430].map((x) => (
        <path
          key={x}
          d={`M${x} 120v30M${x - 8} 120h16M${x - 8} 150h16`}
          className="stroke-ink"
          strokeWidth="2"
        />
      ))}
      <text x="90" y="255" fontSize="13" className="fill-quiet!">
        dashed: new; dotted: as thin as it may get; rivets below the face
      </text>
    </g>
  );
}

/** What is left of the lining, as a share and as a distance. */
function Meaning({ out, input, units }: Props) {
  if (!out) return null;
  const now = asQuantity(input.now);
  const limit = asQuantity(input.limit);
  return (
    <>
      <BigFigure
        label="Worn off so far"
        value={out.worn}
        verdict={out.verdict}
        units={units}
        below={`${Math.round(100 * out.share_left)} % of what may wear is left${out.distance_left ? `, about ${sayQ(out.distance_left, units)} at this rate` : ""}`}
      />
      {now && limit && <LimitLine value={now} min={limit} verdict={out.verdict} units={units} />}
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold:
    "Caliper over both linings, pressed together, at three places. " +
    "With rivets: depth from the face to the rivet's head.",
  wrong: "A disc that is cupped reads too thick at its rim.",
  why: "What is left over the rivets wears on at the rate so far, as long as it is driven as before.",
};

export default bench<"clutch-wear">({ calc: "clutch-wear", Drawing, Meaning });
