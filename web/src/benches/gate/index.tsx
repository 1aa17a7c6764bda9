import { asQuantity, say as sayQ } from "../../model/quantity";
import type { InputOf, ResultOf } from "../../model/results";
import type { Quantity, Units } from "../../model/types";
import { begun } from "../../model/words";
import { BigFigure } from "../../parts/BigFigure";
import { Frame } from "../../parts/Frame";
import { type HelpText, Method } from "../../parts/Method";
import { bench, type Face } from "../bench";
import { asksFor, GivenAt, Over, type PlaceOver } from "../given";

type Out = ResultOf<"gate">;
type Gears = NonNullable<Partial<InputOf<"gate">>["gears"]>;
type Props = Face<"gate">;

/** The gate from above, front at the top: the gap to the stop in each gear, as it is and as it would be. */
function Drawing(p: Props) {
  const { title, out, input, units, rest } = p;
  const gears = input.gears ?? [];
  return (
    <>
      <Frame label={title} wide>
        <Over
          width={640}
          height={320}
          says={`Gate from above. ${out?.says ?? "Not measured yet"}`}
          places={typedAt(p)}
        >
          <text x="12" y="20" fontSize="12" className="fill-quiet!">
            from above, front at the top; gaps in {unitOf(gears)}
          </text>
          {columns(gears).map((column, i, all) => (
            <Plane
              key={column.side}
              x={planeAt(i, all.length)}
              gears={column.gears}
              out={out}
              units={units}
            />
          ))}
          <path d="M85 160H480" className="stroke-ink" strokeWidth="10" strokeLinecap="round" />
          <path d="M85 160H480" className="stroke-paper" strokeWidth="6" strokeLinecap="round" />
          {out && <Moves out={out} />}
        </Over>
      </Frame>
      {rest(["gears"])}
    </>
  );
}

/** Where a plane of the gate stands. */
const planeAt = (i: number, many: number) => (many > 2 ? 280 : 250) + 185 * (i - (many - 1) / 2);

/** Both gaps of each gear, typed beside it; at a step those that are asked. */
function typedAt(p: Props): PlaceOver[] {
  const gears = p.input.gears ?? [];
  const asks = (path: string) => !p.step || asksFor(p, path);
  return columns(gears).flatMap((column, i, all) =>
    column.gears.flatMap((g) => {
      const at = `gears[${gears.indexOf(g)}]`;
      const y = g.end === "rear" ? 206 : 34;
      return [
        { path: `${at}.along`, name: "along", y },
        { path: `${at}.across`, name: "across", y: y + 44 },
      ].flatMap(({ path, name, y: top }) =>
        asks(path) && (name === "along" || column.side !== "middle")
          ? [
              {
                x: planeAt(i, all.length) + 66,
                y: top,
                shows: <GivenAt face={p} path={path} label={`${g.gear}, ${name}`} bare />,
              },
            ]
          : [],
      );
    }),
  );
}

const unitOf = (gears: Gears) => asQuantity(gears[0]?.along)?.unit ?? "mm";

/** The planes of the gate from left to right; what has no side stands in the middle. */
function columns(gears: Gears) {
  const at = (side: "left" | "right" | undefined) => ({
    side: side ?? "middle",
    gears: gears.filter((g) => (g.side || undefined) === side),
  });
  return [at("left"), at(undefined), at("right")].filter((c) => c.gears.length > 0);
}

type PlaneProps = { x: number; gears: Gears; out: Out | undefined; units: Units };

/** One plane: a slot to the front and one to the rear, each gear with its gaps. */
const Plane = ({ x, gears, out, units }: PlaneProps) => (
  <g>
    {gears.map((g) => {
      const front = g.end !== "rear";
      const then = out?.predicted.find((p) => p.gear === g.gear);
      const y = front ? 62 : 226;
      return (
        <g key={g.gear}>
          <path
            d={front ? `M${x} 160V56` : `M${x} 160V264`}
            className="stroke-ink"
            strokeWidth="10"
            strokeLinecap="round"
          />
          <path
            d={front ? `M${x} 160V56` : `M${x} 160V264`}
            className="stroke-paper"
            strokeWidth="6"
            strokeLinecap="round"
          />
          <circle cx={x} cy={front ? 56 : 264} r="13" className="fill-sheet stroke-ink" strokeWidth="1.6" />
          <text x={x} y={(front ? 56 : 264) + 5} fontSize="14" textAnchor="middle" className="font-semibold">
            {g.gear}
          </text>
          <Gap x={x + 104} y={y - 8} is={asQuantity(g.along)} then={then?.along} units={units} />
          <Gap x={x + 104} y={y + 36} is={asQuantity(g.across)} then={then?.across} units={units} />
        </g>
      );
    })}
  </g>
);

type GapProps = { x: number; y: number; is: Quantity | undefined; then: Quantity | undefined; units: Units };

/** What the move would leave of a gap. */
const Gap = ({ x, y, is, then, units }: GapProps) =>
  is &&
  then &&
  then.value !== is.value && (
    <text x={x} y={y} fontSize="13" className="font-mono fill-blue! font-semibold">
      to {bare(then, units)}
    </text>
  );

const bare = (q: Quantity, units: Units) => sayQ(q, units).split(" ")[0] ?? "";

/** Which way the lever goes. */
function Moves({ out }: { out: Out }) {
  const along = out.shift?.value ?? 0;
  const across = out.turn_deg ?? 0;
  return (
    <g className="stroke-blue fill-blue" strokeWidth="3">
      {along !== 0 && (
        <>
          <path d="M44 134V186" strokeDasharray="5 3" />
          <path d={along > 0 ? "M44 122l-7 14h14z" : "M44 198l-7 -14h14z"} strokeWidth="0" />
        </>
      )}
      {across !== 0 && (
        <>
          <path d="M18 160H70" strokeDasharray="5 3" />
          <path d={across > 0 ? "M82 160l-14 -7v14z" : "M6 160l14 -7v14z"} strokeWidth="0" />
        </>
      )}
    </g>
  );
}

/** The smallest gap after the move, and the move. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure
        label="Smallest gap after the move"
        value={out.smallest}
        verdict={out.verdict}
        units={units}
      />
      <div className="border-t border-ink pt-3">
        <h3 className="text-head">Next</h3>
        <p>{begun(out.says)}.</p>
        <p className="mt-2 text-note text-quiet">
          Largest less smallest gap, front to rear: {sayQ(out.spread_before.along, units)}, then{" "}
          {sayQ(out.spread_after.along, units)}.
        </p>
      </div>
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "In each gear push the lever on against its stop, and measure how much is left at the clamp.",
  wrong: "Worn bushes give in: measure from the same side each time.",
  why:
    "One clamp has one turn and one shift for all gears. " +
    "The best is where no gear has much less than the others.",
};

export default bench<"gate">({ calc: "gate", Drawing, Meaning });
