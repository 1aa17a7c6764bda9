import { faulty } from "../../parts/Fault";
import { type EntryView, type Quantity, type Trial } from "../../model/types";

type Props = {
  trials: Trial[];
  entries: EntryView[];
  typed: string;
  onTyped: (v: string) => void;
  unit: string;
  onTake: () => void;
  correcting: string;
  onCorrect: (id: string) => void;
  onStrike: (id: string) => void;
  /** What is wrong with what is typed, or was taken and refused. */
  error: Error | null;
};

const numberOf = ({ body: { value, typed } }: Pick<EntryView, "body">) =>
  typed || (value ? `${value.value} ${value.unit}` : "");

/** The values of a trial's readings, but for the one that is being corrected. */
export const valuesBut = (trial: Trial | undefined, correcting: string): Quantity[] =>
  trial?.readings.filter((e) => e.id !== correcting).flatMap((e) => e.body.value ?? []) ?? [];

/** What stood at this place before it was corrected. */
const before = (entries: EntryView[], id: string) => entries.filter((e) => e.superseded_by === id);

/** Readings on a strip, one row per trial; a corrected one is struck through and stays readable. */
export function ReadingStrip(p: Props) {
  const { trials, entries, correcting, onCorrect, onStrike } = p;
  const last = trials.at(-1);
  const input = <NextReading {...p} last={last?.readings.at(-1)?.id} />;
  return (
    <div className="mt-4 border border-ink overflow-x-auto" role="group" aria-label="Readings" tabIndex={-1}>
      {trials.map((t) => (
        <div
          key={t.number}
          className="flex flex-wrap border-b border-hair last:border-b-0 min-h-[50px] items-stretch"
        >
          <div className="w-[104px] px-3 py-1.5 border-r border-hair text-note">
            {t.number === 1 ? "as found" : `trial ${t.number}`}
            {t.sum && (
              <span className="block text-quiet text-tiny">
                pack {t.sum.value} {t.sum.unit}
              </span>
            )}
          </div>
          {/* By its place: an entry on its way gets another name when it lands. */}
          {t.readings.map((e, i) =>
            correcting === e.id ? (
              <div key={i} className="flex">
                {input}
                <button
                  type="button"
                  className="px-3 border-r border-hair text-out min-h-11"
                  onClick={() => onStrike(e.id)}
                >
                  Strike out
                </button>
              </div>
            ) : (
              <Taken key={i} entry={e} before={before(entries, e.id)} onCorrect={onCorrect} />
            ),
          )}
          {t === last && !correcting && !t.accepted && input}
          {t.accepted && <p className="px-3 self-center text-note">accepted as it is: {t.accepted}</p>}
        </div>
      ))}
    </div>
  );
}

type NextProps = Props & { last: string | undefined };

/** Where the next reading is typed, or the right one for a wrong. */
const NextReading = ({ typed, onTyped, unit, onTake, correcting, onCorrect, error, last }: NextProps) => (
  <form
    className="flex" // the key stays beside its field when the strip breaks
    onSubmit={(e) => {
      e.preventDefault();
      onTake();
    }}
  >
    <div
      className={`flex items-center min-w-[138px] min-h-[50px] bg-field outline-[3px] -outline-offset-[3px] ${error ? "outline-out" : "outline-blue"}`}
    >
      <input
        data-hand
        data-takes
        aria-label={correcting ? "Corrected reading" : "Next reading"}
        {...faulty(error, "reading-fault")}
        value={typed}
        autoFocus
        autoComplete="off"
        inputMode="decimal"
        onChange={(e) => onTyped(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "ArrowLeft" && typed === "" && last) {
            e.preventDefault();
            onCorrect(last);
          }
          if (e.key === "Escape" && correcting) onCorrect("");
        }}
        className={`w-[92px] grow px-3 py-2 bg-transparent font-mono font-medium focus-visible:outline-none ${typed.length > 6 ? "text-body" : "text-title"}`}
      />
      <span className="pr-2.5 font-mono text-small text-quiet">{/[a-zµ"]/i.test(typed) ? "" : unit}</span>
    </div>
    <button type="submit" className="px-3 min-h-11 border-r border-hair" aria-label="Record reading">
      Record
    </button>
  </form>
);

type TakenProps = { entry: Trial["readings"][number]; before: EntryView[]; onCorrect: (id: string) => void };

/** A reading that was taken, and what stood there before. */
const Taken = ({ entry, before: olds, onCorrect }: TakenProps) => (
  <button
    type="button"
    title="correct this reading"
    onClick={() => onCorrect(entry.id)}
    className="px-3 border-r border-hair font-mono font-medium text-head min-h-11"
  >
    <span className="sr-only">Reading </span>
    {numberOf(entry)}
    <span className="sr-only">, correct it</span>
    {olds.map((old) => (
      <s key={old.id} className="text-quiet text-small font-normal ml-2">
        {numberOf(old)}
      </s>
    ))}
  </button>
);
