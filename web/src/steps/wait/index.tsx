import { useEffect, useState } from "react";
import { liveAt } from "../../model/types";
import { Button } from "../../parts/Button";
import { Choices, Reasoned } from "../../parts/Choices";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";

type Props = PropsOf<"wait">;

/** A clock that runs by the school the shop follows. */
export default function WaitStep({ view, say }: Props) {
  const usual = view.schools.find((s) => s.default)?.id ?? "";
  const [picked, setPicked] = useKept(`school.${view.step.id}`, usual);
  const left = useCountdown(view.wait.now, view.wait.due);
  const started = view.wait.started !== undefined;
  const school = view.wait.school || picked;
  return (
    <div className="border border-ink mt-3.5">
      <p className="px-4 py-2 border-b border-hair text-quiet">
        Ours is marked. Choose another if the sealant or the maker asks for it.
      </p>
      <Choices
        label="Approach"
        chosen={school}
        onPick={setPicked}
        disabled={started}
        hands={view.schools.map((s) => s.id)}
      >
        {view.schools.map((s, i) => (
          <Reasoned
            key={s.id}
            figure={i + 1}
            id={s.id}
            title={`${s.title}${s.default ? " (our way)" : ""}: ${s.wait.value} ${s.wait.unit}`}
            text={s.why}
          />
        ))}
      </Choices>
      <div className="p-4 border-t border-ink flex flex-wrap gap-5 items-center">
        <Clock share={gone(view.wait, left)} text={started ? clockText(left) : "–:––"} />
        <Turn view={view} say={say} school={school} left={left} />
      </div>
    </div>
  );
}

/** The share of the time that is over. */
function gone({ started, due }: Props["view"]["wait"], left: number) {
  if (!started) return 0;
  const whole = Math.max(1, (Date.parse(due ?? "") - Date.parse(started)) / 1000);
  return Math.min(1, 1 - left / whole);
}

type TurnProps = Pick<Props, "view" | "say"> & { school: string; left: number };

/** Starts the clock, ends it when the time is over, or sooner with a reason. */
function Turn({ view, say, school, left }: TurnProps) {
  const started = view.wait.started !== undefined;
  const ended = liveAt(view.entries, "end");
  const turn = () => say(started ? { act: "end" } : { act: "start", outcome: school });
  useKey("act", started ? "the time is up" : "start the clock", turn, !ended && (!started || left <= 0));
  if (ended) return <p className="text-line">Time up, confirmed by {ended.by.name}.</p>;
  if (!started)
    return (
      <Button look="go" hint="F" name="start" onClick={turn}>
        Start the clock
      </Button>
    );
  if (left > 0) return <Sooner step={view.step.id} say={say} />;
  return (
    <Button look="go" hint="F" name="end" onClick={turn}>
      Time up: go on
    </Button>
  );
}

function Sooner({ step, say }: { step: string; say: Props["say"] }) {
  const [reason, setReason] = useKept(`sooner.${step}`);
  return (
    <form
      className="flex gap-2 items-end flex-wrap"
      onSubmit={(e) => {
        e.preventDefault();
        say({ act: "end", reason }, () => setReason(""));
      }}
    >
      <Field label="Reason to go on early" value={reason} onValue={setReason} />
      <Button type="submit" disabled={reason.trim() === ""}>
        Go on early
      </Button>
    </form>
  );
}

/** Seconds left by the server's clock, counted on by the browser's. */
function useCountdown(now: string | undefined, due: string | null | undefined) {
  const [since, setSince] = useState({ now: "", passed: 0 });
  useEffect(() => {
    const began = Date.now();
    const timer = setInterval(() => setSince({ now: now ?? "", passed: (Date.now() - began) / 1000 }), 500);
    return () => clearInterval(timer);
  }, [now]);
  if (!now || !due) return 0;
  return (Date.parse(due) - Date.parse(now)) / 1000 - (since.now === now ? since.passed : 0);
}

function clockText(seconds: number) {
  const s = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

function Clock({ share, text }: { share: number; text: string }) {
  const r = 52;
  const a = 2 * Math.PI * Math.min(0.9999, Math.max(0, share));
  return (
    <svg width="130" height="130" viewBox="-65 -65 130 130" role="img" aria-label={`time left ${text}`}>
      <circle r={r} className="fill-none stroke-hair" strokeWidth="1.2" />
      {Array.from({ length: 12 }, (_, i) => (
        <line
          key={i}
          y1={-r}
          y2={-r + 8}
          transform={`rotate(${i * 30})`}
          className="stroke-ink"
          strokeWidth="1.2"
        />
      ))}
      {share > 0 && (
        <path
          d={`M0 ${-r}A${r} ${r} 0 ${a > Math.PI ? 1 : 0} 1 ${r * Math.sin(a)} ${-r * Math.cos(a)}`}
          className="fill-none stroke-blue"
          strokeWidth="6"
        />
      )}
      <text textAnchor="middle" y="8" fontSize="24" style={{ fontFamily: "var(--font-mono)" }}>
        {text}
      </text>
    </svg>
  );
}
