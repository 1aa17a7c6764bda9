import { placed } from "../../model/number";
import { useState } from "react";
import type { AtStep, Face } from "../bench";
import { TypedHere } from "../given";
import { atClock } from "../../parts/drawn/clock";
import { half, ring } from "./Housing";

type Props = Pick<Face<"bellhousing">, "input" | "given"> & { step: AtStep };
type Asked = AtStep["asked"][number];

/** One place of the clock with what was read there, turn by turn. */
type Place = { clock: number; back: boolean; asked: Asked[] };

/**
 * The readings, typed where the indicator stood; the way back to the start has a place of its own beside
 * it.
 */
export function Places(p: Props) {
  const places = placesOf(p);
  const current = p.step.asked.find(({ ask, entry }) => !ask.optional && !entry)?.ask.id;
  const [correcting, setCorrecting] = useState("");
  return places.map((place) => {
    const at = atClock(place.clock, ring + (place.clock % 12 === 0 ? 44 : 50));
    const left = 50 + (50 * (at.x + (place.back ? 96 : place.clock % 12 === 0 ? -30 : 0))) / half;
    return (
      <div
        key={`${place.clock} ${place.back}`}
        className="absolute -translate-x-1/2 -translate-y-1/2 text-center"
        style={{ left: `${left}%`, top: `${50 + (50 * at.y) / half}%` }}
      >
        <span className="block text-quiet text-tiny leading-none">
          {place.back ? "back at 12" : place.clock}
        </span>
        <div className="flex justify-center">
          {place.asked.map((a) =>
            a.ask.id === (correcting || current) ? (
              <TypedHere
                key={a.ask.id}
                step={p.step}
                asked={a}
                fault={p.given(a.ask.feeds ?? "").fault}
                narrow
                onDone={() => setCorrecting("")}
              />
            ) : (
              a.entry && (
                <button
                  key={a.ask.id}
                  type="button"
                  title="correct this"
                  className="min-h-11 min-w-11 px-1 font-mono font-medium text-body text-center bg-sheet/80"
                  onClick={() => setCorrecting(a.ask.id)}
                >
                  <span className="sr-only">{a.ask.text}: </span>
                  {a.entry.body.value?.value}
                  <span className="sr-only"> {a.entry.body.value?.unit}, correct it</span>
                </button>
              )
            ),
          )}
        </div>
      </div>
    );
  });
}

/** The places in the order of turning: the second time at the start is the way back. */
function placesOf({ input, step }: Props): Place[] {
  const places: Place[] = [];
  const asked = step.asked.map((a) => ({
    a,
    n: placed(/^readings\[(\d+)\]\.reading$/.exec(a.ask.feeds ?? "")?.[1] ?? "-1"),
  }));
  const first = input.readings?.[0]?.clock;
  for (const { a, n } of asked.filter((x) => x.n >= 0)) {
    const clock = input.readings?.[n]?.clock ?? 12;
    const back = clock === first && n > 0;
    const known = places.find((x) => x.clock === clock && x.back === back);
    if (known) known.asked.push(a);
    else places.push({ clock, back, asked: [a] });
  }
  return places;
}
