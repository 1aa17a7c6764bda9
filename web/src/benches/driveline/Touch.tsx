import { useEffect } from "react";
import {
  locksOf,
  type Observed,
  observed,
  shaftWords,
  toggled,
  touch,
  touchedAs,
  touches,
  untouched,
} from "./motion";
import { Button } from "../../parts/Button";
import { useKey } from "../../parts/keys";
import type { AtStep, Face } from "../bench";

type Props = Pick<Face<"driveline">, "input"> & {
  step: AtStep;
  /** The shaft or wheel that was touched in the drawing. */
  at: string | undefined;
  made: Observed;
  onMake: (o: Observed) => void;
};

const feels = [
  { id: "light", text: "light" },
  { id: "drags", text: "it drags" },
  { id: "stands", text: "it will not turn" },
] as const;

/** What is put together by touching the line: its meaning follows before it is put on record. */
export function Touch({ at, made, onMake, step: { say, onTyping }, input }: Props) {
  const whole = observed(made);
  const key = JSON.stringify(whole ?? null);
  useEffect(() => {
    const o: unknown = JSON.parse(key);
    onTyping(o ? { act: "reading", item: "seen", figure: o } : undefined);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked anew only when another thing was said
  }, [key]);
  const keep = () =>
    whole &&
    say({ act: "reading", item: "seen", figure: whole }, () => {
      onTyping(undefined);
      onMake(untouched);
    });
  useKey("act", "record this observation", () => void keep(), whole !== undefined);
  return (
    <section
      aria-label="What was turned, what moved"
      className="border border-t-0 border-ink bg-tint/50 border-l-5 border-l-blue p-3"
    >
      <p className="text-quiet text-small">
        {at ? "" : "Touch a wheel or shaft in the drawing. Say what you did and what it did."}
      </p>
      {at && <AtShaft at={at} made={made} onMake={onMake} />}
      <With locks={locksOf(input.members ?? [])} made={made} onMake={onMake} />
      <div className="flex flex-wrap gap-3 items-center mt-1.5">
        <p role="status" className="grow basis-[200px]">
          {whole ? <b className="font-semibold">What if: {whole.says}</b> : made.turned && "What did it do?"}
        </p>
        {(made.turned || made.felt) && (
          <Button look="quiet" onClick={() => onMake(untouched)}>
            Start again
          </Button>
        )}
        <Button look="go" hint="F" name="reading" value="seen" disabled={!whole} onClick={() => void keep()}>
          Record it
        </Button>
      </div>
    </section>
  );
}

type Making = Pick<Props, "made" | "onMake">;

/** What was done at the shaft or wheel that was touched, and what it did. */
const AtShaft = ({ at, made, onMake }: Making & { at: string }) => (
  <Row label={shaftWords(at)}>
    {touches.map((t) => (
      <Chip key={t.id} on={touchedAs(made, at) === t.id} onPick={() => onMake(touch(made, at, t.id))}>
        {t.text}
      </Chip>
    ))}
    <Chip on={made.ground?.includes(at) ?? false} onPick={() => onMake(toggled(made, "ground", at))}>
      on the ground
    </Chip>
  </Row>
);

/** Under which circumstances, and how it felt. */
const With = ({ locks, made, onMake }: Making & { locks: readonly string[] }) => (
  <Row label="with">
    {locks.map((l) => (
      <Chip key={l} on={made.locks?.includes(l) ?? false} onPick={() => onMake(toggled(made, "locks", l))}>
        {shaftWords(l)} in
      </Chip>
    ))}
    <Chip
      on={made.engine === "on"}
      onPick={() => onMake({ ...made, engine: made.engine === "on" ? "off" : "on" })}
    >
      engine on
    </Chip>
    {feels.map((f) => (
      <Chip
        key={f.id}
        on={made.felt === f.id}
        onPick={() => {
          const { felt, ...rest } = made;
          onMake(felt === f.id ? rest : { ...rest, felt: f.id });
        }}
      >
        {f.text}
      </Chip>
    ))}
  </Row>
);

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-center gap-y-1.5 mt-1.5">
      <span className="basis-[92px] text-note font-semibold">{label}</span>
      {children}
    </div>
  );
}

function Chip({ on, onPick, children }: { on: boolean; onPick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      data-look="quiet"
      className={`min-h-11 px-3 border -ml-px ${on ? "border-ink bg-ink text-sheet" : "border-ink bg-sheet"}`}
      onClick={onPick}
    >
      {children}
    </button>
  );
}
