import { Outlet } from "@tanstack/react-router";
import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { outbox } from "../data/sending";
import { endSession, signedOut, useBench, useFirst, useRanOut, useSession } from "../data/session";
import { useOutbox } from "../parts/saying";
import { Fault } from "../parts/Fault";
import { KeptFor } from "../parts/kept";
import { KeysProvider } from "../parts/keys";
import { SignIn } from "./SignIn";
import { several } from "../model/several";

const Help = lazy(() => import("../parts/Help"));
const FirstRun = lazy(() => import("./FirstRun"));
const Bench = lazy(() => import("./Bench"));

/** The frame of the program: sign-in, key help, and what still waits for the server. */
export function Shell() {
  const session = useSession();
  const ranOut = useRanOut();
  const there = session.data ?? ranOut;
  const [help, setHelp] = useState(false);
  const showHelp = useCallback(() => setHelp(true), []);
  return (
    <KeysProvider onHelp={showHelp}>
      <>
        <button
          type="button"
          className="sr-only focus:not-sr-only focus:fixed focus:z-20 focus:bg-sheet focus:border focus:p-3"
          onClick={() => document.querySelector<HTMLElement>("main")?.focus()}
        >
          Skip to the step
        </button>
        {session.isPending && <p className="p-6 text-quiet">One moment.</p>}
        {session.isError && (
          <div className="p-6">
            <Fault error={session.error} />
          </div>
        )}
        {session.data === null && !ranOut && <Outside />}
        {there && (
          <div inert={ranOut !== undefined}>
            <KeptFor scope={there.person.login}>
              <Outlet />
            </KeptFor>
          </div>
        )}
        {ranOut && <Again known={ranOut.person.login} />}
        {session.data && <SignedIn session={session.data} />}
        {help && (
          <Suspense>
            <Help onClose={() => setHelp(false)} />
          </Suspense>
        )}
      </>
    </KeysProvider>
  );
}

/** Nobody is signed in: the first run of a shop, or the way in. */
function Outside() {
  const first = useFirst(true);
  if (first.data?.wanted)
    return (
      <Suspense>
        <FirstRun />
      </Suspense>
    );
  return first.data || first.isError ? <WayIn /> : null;
}

/** The session ran out: what stands behind stays as it was typed. */
const Again = ({ known }: { known: string }) => (
  <div
    role="dialog"
    aria-modal="true"
    aria-label="Sign in again"
    className="fixed inset-0 z-20 bg-ink/40 overflow-auto"
  >
    <p role="status" className="bg-sheet border-b border-ink px-5 py-2.5">
      <b>Say once more who you are.</b> The rest was too long, or something is to be signed. What you typed
      stays; sign in and go on where you were.
    </p>
    <WayIn known={known} />
  </div>
);

const SignedIn = ({ session }: { session: NonNullable<ReturnType<typeof useSession>["data"]> }) => (
  <>
    {session.idle_minutes && <Rest minutes={session.idle_minutes} />}
    <Waiting by={session.person.login} />
  </>
);

/** By a password, or at a tablet of the bench by a name and a PIN. */
function WayIn({ known }: { known?: string }) {
  const [password, setPassword] = useState(false);
  const bench = useBench();
  if (bench.isPending) return null;
  if (!bench.data?.tablet || password) return <SignIn {...(known && { known })} />;
  return (
    <Suspense>
      <Bench bench={bench.data} onPassword={() => setPassword(true)} />
    </Suspense>
  );
}

/** After a rest the tablet asks again who stands there; what is half typed stays with its person. */
function Rest({ minutes }: { minutes: number }) {
  const cache = useQueryClient();
  useEffect(() => {
    let timer = 0;
    const leave = () =>
      void endSession()
        .catch(() => undefined)
        .finally(() => signedOut(cache));
    const again = () => {
      clearTimeout(timer);
      timer = window.setTimeout(leave, minutes * 60_000);
    };
    again();
    for (const sign of ["pointerdown", "keydown"]) window.addEventListener(sign, again);
    return () => {
      clearTimeout(timer);
      for (const sign of ["pointerdown", "keydown"]) window.removeEventListener(sign, again);
    };
  }, [minutes, cache]);
  return null;
}

/** Says what the server has not acknowledged yet, which goes by itself, and what it refused after all. */
function Waiting({ by }: { by: string }) {
  const seen = useOutbox(by);
  const own = seen.waiting.filter((w) => w.by === by).length;
  const others = seen.waiting.length - own;
  const mine = seen.away ? own : 0; // on its way is no news
  const refused = seen.refused.filter((r) => r.by === by);
  if (mine + others + refused.length === 0) return null;
  return (
    <div
      role="status"
      className="fixed bottom-0 inset-x-0 bg-ink text-sheet px-5 py-2.5 flex flex-wrap gap-x-4 items-center z-10"
    >
      {mine > 0 && (
        <span>
          <b>{several(mine, "entry", "entries")} not sent yet.</b> Kept here and sent automatically; carry on.
        </span>
      )}
      {others > 0 && (
        <span>
          {several(others, "entry", "entries")} of someone else {others === 1 ? "is" : "are"} kept here until
          they sign in.
        </span>
      )}
      {refused.map((r) => (
        <span key={r.key} className="basis-full">
          <b>Not accepted:</b> {r.text}{" "}
          <button type="button" className="underline min-h-11 px-2" onClick={() => void outbox.note(r.key)}>
            Dismiss
          </button>
        </span>
      ))}
    </div>
  );
}
