import { asQuantity, inUnit, say as sayQ } from "../../model/quantity";
import type { ResultOf } from "../../model/results";
import type { Units } from "../../model/types";
import { BigFigure } from "../../parts/BigFigure";
import { type HelpText, Method } from "../../parts/Method";
import { NextMove } from "../../parts/NextMove";
import { bench, type Face } from "../bench";
import { OverFields } from "../given";

type Out = ResultOf<"tap-drill">;
type Props = Face<"tap-drill">;

const typed = [
  ["diameter", "thread, outside"],
  ["pitch", "pitch"],
] as const;

/** The hole in section: the drill's wall, and the thread cut into it, to scale with each other. */
function Drawing(p: Props) {
  const { out, input, units } = p;
  const outside = asQuantity(input.diameter);
  return (
    <OverFields face={p} fields={typed}>
      {out && outside && (
        <Hole
          out={out}
          units={units}
          share={inUnit(out.drill, outside.unit, units) / outside.value}
          thread={sayQ(outside, units)}
        />
      )}
    </OverFields>
  );
}

type HoleProps = { out: Out; units: Units; share: number; thread: string };

function Hole({ out, units, share, thread }: HoleProps) {
  const half = 90;
  const drill = half * share;
  const teeth = Array.from({ length: 8 }, (_, i) => 44 + 20 * i);
  const flank = (side: 1 | -1) =>
    teeth.map((y) => `L${450 + side * half} ${y + 5}L${450 + side * drill} ${y + 15}`).join("");
  return (
    <svg viewBox="0 0 900 260" className="w-full" role="img" aria-label={`Hole for the tap. ${out.says}`}>
      <path d="M260 40H640V220H260z" className="fill-ink/10 stroke-ink" strokeWidth="1.6" />
      <path
        d={`M${450 - drill} 40${flank(-1)}L${450 - drill} 220H${450 + drill}V40z`}
        className="fill-sheet"
        stroke="none"
      />
      <path
        d={`M${450 - drill} 40${flank(-1)}M${450 + drill} 40${flank(1)}`}
        className="stroke-ink fill-none"
      />
      <path
        d={`M${450 - drill} 40V220M${450 + drill} 40V220`}
        className="stroke-blue"
        strokeWidth="2"
        strokeDasharray="6 4"
      />
      <text x="450" y="245" textAnchor="middle" fontSize="16" className="font-mono font-semibold fill-blue!">
        drill {sayQ(out.drill, units)}
      </text>
      <text x="450" y="28" textAnchor="middle" fontSize="13">
        thread {thread}
      </text>
    </svg>
  );
}

/** The drill to take. */
function Meaning({ out, units }: Props) {
  if (!out) return null;
  return (
    <>
      <BigFigure label="Drill" value={out.drill} units={units} />
      <NextMove says={out.says} />
      <Method out={out} help={help} />
    </>
  );
}

const help: HelpText = {
  hold: "Pitch by a thread gauge; without one, count the turns over a length.",
  wrong: "A worn drill cuts wide and leaves a thread that strips.",
  why: "Outside less pitch leaves the tap about four fifths of a full thread: strong enough, and it turns.",
};

export default bench<"tap-drill">({ calc: "tap-drill", Drawing, Meaning });
