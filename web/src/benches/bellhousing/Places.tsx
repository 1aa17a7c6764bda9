import { placed } from "../../model/number";
import { useState } from "react";
import { withUnit } from "../../model/quantity";
import type { Draft } from "../../model/types";
import type { InputOf } from "../../model/results";
import type { AtStep } from "../bench";
import { useKept } from "../../parts/kept";
import { useUnitOf } from "../../parts/UnitShown";
import { atClock } from "../../parts/drawn/clock";
import { half, ring } from "./Housing";

type Props = { input: Partial<InputOf<"bellhousing">>; step: AtStep };
type Asked = AtStep["asked"][number];

/** One place of the clock with what was read there, turn by turn. */
type Place = { clock: number; back: boolean; asked: Asked[] };

/** The readings, typed where the indicator stood; the way back to the start has a place of its own beside it. */
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
              <Typing key={a.ask.id} {...p.step} {...a} onDone={() => setCorrecting("")} />
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

function Typing({ ask, entry, say, onTyping, onDone }: AtStep & Asked & { onDone: () => void }) {
  const [typed, setTyped] = useKept(`place.${ask.id}`);
  const [unit] = useUnitOf("bellhousing", ask.units, true);
  const draftOf = (text: string): Draft | undefined =>
    text.trim() === ""
      ? undefined
      : {
          act: "reading",
          item: entry?.item ?? ask.id,
          value: withUnit(text, unit),
          ...(entry && { supersedes: entry.id }),
        };
  const take = () => {
    const d = draftOf(typed);
    if (!d) return;
    say(d, () => {
      setTyped("");
      onTyping(undefined);
      onDone();
    });
  };
  return (
    <form
      className="flex items-stretch bg-field outline-[3px] outline-blue"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <input
        aria-label={ask.text}
        value={typed}
        autoFocus
        inputMode="decimal"
        autoComplete="off"
        onChange={(e) => {
          setTyped(e.target.value);
          onTyping(draftOf(e.target.value));
        }}
        onKeyDown={(e) => e.key === "Escape" && onDone()}
        className="w-[58px] min-h-11 px-1.5 bg-transparent font-mono font-medium text-head text-center focus-visible:outline-none"
      />
      <button
        type="submit"
        className="px-1.5 min-h-11 border-l border-hair text-tiny text-quiet"
        aria-label={`Take ${ask.text}`}
      >
        {unit}
      </button>
    </form>
  );
}
