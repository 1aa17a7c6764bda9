import { useCallback, useEffect, useState } from "react";
import { useStandHere } from "../data/session";
import type { BenchView, Person } from "../model/types";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { useTitle } from "../parts/focus";

const figures = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "back", "0", "ok"] as const;

/** A tablet that belongs to nobody: who stands here is a name and a PIN. */
export default function Bench({ bench, onPassword }: { bench: BenchView; onPassword: () => void }) {
  useTitle(bench.tablet ?? "The bench");
  const [who, setWho] = useState<Person | undefined>();
  return (
    <main tabIndex={-1} className="min-h-screen grid place-items-center p-4">
      <div className="bg-sheet border border-ink w-[560px] max-w-full">
        <div className="border-b border-ink px-6 py-5">
          <h1 className="text-title leading-none">Who is at the bench?</h1>
          <p className="text-quiet mt-1">{bench.tablet}</p>
        </div>
        {who ? (
          <Pad who={who} onOther={() => setWho(undefined)} />
        ) : (
          <ul className="grid grid-cols-2 max-[480px]:grid-cols-1 p-px">
            {bench.people.map((p) => (
              <li key={p.login} className="-mt-px -ml-px border border-hair">
                <button
                  type="button"
                  onClick={() => setWho(p)}
                  className="w-full min-h-[72px] px-5 text-left text-head hover:bg-tint/40"
                >
                  {p.name}
                </button>
              </li>
            ))}
          </ul>
        )}
        {bench.people.length === 0 && (
          <p className="px-6 py-4">Nobody has a PIN yet. Sign in with your password and set one.</p>
        )}
        <div className="border-t border-hair px-6 py-3">
          <button type="button" className="min-h-11 underline text-quiet" onClick={onPassword}>
            Sign in with password
          </button>
        </div>
      </div>
    </main>
  );
}

function Pad({ who, onOther }: { who: Person; onOther: () => void }) {
  const [pin, setPin] = useState("");
  const open = useStandHere();
  const { mutate, isPending } = open;
  const say = useCallback(
    () => mutate({ login: who.login, pin }, { onError: () => setPin("") }),
    [mutate, who.login, pin],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (/^\d$/.test(e.key)) setPin((p) => (p + e.key).slice(0, 8));
      if (e.key === "Backspace") setPin((p) => p.slice(0, -1));
      if (e.key === "Escape") onOther();
      if (e.key === "Enter" && pin.length >= 4 && !isPending) {
        e.preventDefault();
        say();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [pin.length, isPending, say, onOther]);
  const press = (f: (typeof figures)[number]) => {
    if (f === "back") setPin(pin.slice(0, -1));
    else if (f === "ok") say();
    else setPin((pin + f).slice(0, 8));
  };
  return (
    <div className="p-6 flex flex-col gap-4 items-center">
      <p className="text-head">{who.name}</p>
      <p className="font-mono text-figure leading-none min-h-[43px]" role="status">
        <span className="sr-only">{pin.length} digits</span>
        <span aria-hidden="true">{"•".repeat(pin.length)}</span>
      </p>
      <div className="grid grid-cols-3 w-[300px] p-px">
        {figures.map((f) => (
          <button
            key={f}
            type="button"
            aria-label={f === "back" ? "Delete the last digit" : f === "ok" ? "Sign in" : f}
            aria-disabled={(f === "ok" && pin.length < 4) || isPending || undefined}
            onClick={() => !(f === "ok" && pin.length < 4) && !isPending && press(f)}
            className={`min-h-[64px] text-center border border-ink -mt-px -ml-px text-title font-mono ${f === "ok" ? "bg-ink text-sheet" : "bg-sheet"}`}
          >
            {f === "back" ? "←" : f === "ok" ? "↵" : f}
          </button>
        ))}
      </div>
      <Fault error={open.error} />
      <Button hint="Esc" onClick={onOther}>
        Not me
      </Button>
    </div>
  );
}
