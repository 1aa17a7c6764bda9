import { useState } from "react";
import { type Line, linesOf, type OwnStep, withoutPiece, withPiece, withStep, withWord } from "./own";
import type { OwnRoute, RouteLine, RoutePage } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choice, Choices } from "../../parts/Choices";
import { Field } from "../../parts/Field";

type Props = {
  page: RoutePage;
  station: string;
  title: string;
  own: OwnRoute;
  onOwn: ((own: OwnRoute) => void) | undefined;
};

/** One station of the route: its steps in order, each opened to say how it goes here. */
export function Station({ page, station, title, own, onOwn }: Props) {
  const [at, setAt] = useState<string | undefined>();
  return (
    <section aria-label={title} className="bg-sheet border border-ink">
      <h2 className="text-head px-5 py-2.5 border-b border-ink">{title}</h2>
      <ol>
        {linesOf(page, own, station).map((l) => {
          const name = l.what === "step" ? l.step.id : `piece-${l.at}`;
          return (
            <li key={name} className="border-b border-hair last:border-b-0">
              <LineShown
                line={l}
                opened={at === name}
                onTurn={onOwn && (() => setAt(at === name ? undefined : name))}
              />
              {at === name && onOwn && (
                <div className="border-y border-ink border-l-6 border-l-blue p-4 flex flex-col gap-3">
                  {l.what === "step" ? (
                    <StepSaid page={page} step={l.step} said={l.own} own={own} onOwn={onOwn} />
                  ) : (
                    <PieceSaid page={page} line={l} own={own} onOwn={onOwn} />
                  )}
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

type PieceProps = {
  page: RoutePage;
  line: Extract<Line, { what: "piece" }>;
  own: OwnRoute;
  onOwn: (own: OwnRoute) => void;
};

/** A piece that was put in: its words as they are said here, or out again. */
function PieceSaid({ page, line: l, own, onOwn }: PieceProps) {
  const words = page.pieces.find((p) => p.id === l.piece.fragment)?.words ?? {};
  return (
    <>
      {Object.entries(words).map(([word, usual]) => (
        <Field
          key={word}
          label={word.replaceAll("-", " ")}
          value={l.piece.with?.[word] ?? ""}
          placeholder={usual}
          onValue={(text) => onOwn(withWord(own, l.at, word, text))}
        />
      ))}
      <div>
        <Button onClick={() => onOwn(withoutPiece(own, l.at))}>Remove</Button>
      </div>
    </>
  );
}

function LineShown({
  line: l,
  opened,
  onTurn,
}: {
  line: Line;
  opened: boolean;
  onTurn: (() => void) | undefined;
}) {
  const out = l.what === "step" && l.own.left_out;
  const title = l.what === "step" ? l.own.title || l.step.title : l.titles.join(", ");
  const said = l.what === "step" ? saysOf(l.step, l.own) : ["added"];
  return (
    <div className="flex flex-wrap gap-x-4 items-center px-5 min-h-11">
      <span className={`grow basis-[240px] ${out ? "line-through text-quiet" : ""}`}>{title}</span>
      <span className="text-quiet">{said.join(", ")}</span>
      {l.what === "step" && l.own.minutes && (
        <span className="font-mono font-medium">{l.own.minutes} min</span>
      )}
      {onTurn && (
        <button
          type="button"
          aria-expanded={opened}
          className="min-h-11 px-2 text-quiet underline"
          onClick={onTurn}
        >
          {opened ? "Close" : "Change"}
          <span className="sr-only"> {title}</span>
        </button>
      )}
    </div>
  );
}

function saysOf(step: RouteLine, own: OwnStep): string[] {
  const way = step.ways.find((w) => w.id === own.school);
  return [own.left_out && "left out", own.say && "reworded", way && `first: ${way.title}`].filter(
    (x) => typeof x === "string" && x !== "",
  ) as string[];
}

type SaidProps = {
  page: RoutePage;
  step: RouteLine;
  said: OwnStep;
  own: OwnRoute;
  onOwn: (own: OwnRoute) => void;
};

function StepSaid({ page, step, said, own, onOwn }: SaidProps) {
  const say = (change: OwnStep) => onOwn(withStep(own, step.id, change));
  return (
    <>
      <div className="grid grid-cols-[minmax(0,1fr)_140px] max-[600px]:grid-cols-1 gap-3">
        <Field
          label="Title here"
          value={said.title ?? ""}
          placeholder={step.title}
          onValue={(title) => say({ title })}
        />
        <Field
          label="Planned time"
          unit="min"
          inputMode="numeric"
          value={said.minutes ? String(said.minutes) : ""}
          onValue={(m) => say({ minutes: m })}
        />
      </div>
      <Field
        label="Instruction"
        value={said.say ?? ""}
        placeholder={step.say}
        onValue={(s) => say({ say: s })}
      />
      {step.ways.length > 0 && <FirstWay step={step} said={said} onSay={say} />}
      <div className="flex flex-wrap gap-2 items-center">
        <Button onClick={() => say({ left_out: !said.left_out })}>
          {said.left_out ? "Put it back" : "Leave out"}
        </Button>
        <select
          aria-label={`Put a piece of the book in behind ${step.title}`}
          value=""
          onChange={(e) => e.target.value && onOwn(withPiece(page, own, e.target.value, step.id))}
          className="min-h-11 px-3 border border-ink bg-field max-w-full"
        >
          <option value="">Add steps from the book after this</option>
          {page.pieces.map((p) => (
            <option key={p.id} value={p.id}>
              {p.steps.join(", ")}
            </option>
          ))}
        </select>
      </div>
    </>
  );
}

type FirstWayProps = { step: RouteLine; said: OwnStep; onSay: (change: OwnStep) => void };

/** Which of the book's ways is proposed first here. */
function FirstWay({ step, said, onSay }: FirstWayProps) {
  const usual = step.ways.find((w) => w.default)?.id ?? "";
  return (
    <Choices
      label="Suggested approach"
      chosen={said.school || usual}
      onPick={(school) => onSay({ school: school === usual ? "" : school })}
      className="border border-ink"
    >
      {step.ways.map((w) => (
        <Choice key={w.id} value={w.id} marked>
          <span className="font-semibold">{w.title}</span>
          {w.default && <span className="text-quiet"> (standard)</span>}
          {w.why && <span className="block text-quiet text-note">{w.why}</span>}
        </Choice>
      ))}
    </Choices>
  );
}
