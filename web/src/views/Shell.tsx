import { Outlet } from "@tanstack/react-router";
import { lazy, Suspense, useCallback, useState } from "react";
import { useOutbox, useSession } from "../api/hooks";
import { Fault } from "../parts/Fault";
import { KeysProvider } from "../parts/keys";
import { HelpContext } from "./help";
import { SignIn } from "./SignIn";

const Help = lazy(() => import("../parts/Help"));

/** The frame of the program: sign-in, key help, and what still waits for the server. */
export function Shell() {
  const session = useSession();
  const [help, setHelp] = useState(false);
  const showHelp = useCallback(() => setHelp(true), []);
  return (
    <KeysProvider onHelp={showHelp}>
      <HelpContext value={showHelp}>
        {session.isPending && <p className="p-6 text-quiet">One moment.</p>}
        {session.isError && <div className="p-6"><Fault error={session.error} /></div>}
        {session.data === null && <SignIn />}
        {session.data && <Outlet />}
        {session.data && <Waiting by={session.data.person.login} />}
        {help && <Suspense><Help onClose={() => setHelp(false)} /></Suspense>}
      </HelpContext>
    </KeysProvider>
  );
}

/** Says what the server has not acknowledged yet; it goes by itself. */
function Waiting({ by }: { by: string }) {
  const [refused, setRefused] = useState("");
  const note = useCallback((text: string) => setRefused(text), []);
  const waiting = useOutbox(by, note);
  if (waiting.length === 0 && !refused) return null;
  const mine = waiting.filter((w) => w.by === by).length;
  const others = waiting.length - mine;
  return (
    <div role="status" className="fixed bottom-0 inset-x-0 bg-ink text-sheet px-5 py-2.5 flex gap-4 items-center z-10">
      {mine > 0 && <span><b>{mine === 1 ? "1 entry waits" : `${mine} entries wait`} for the server.</b> It is kept here and goes by itself; work on.</span>}
      {others > 0 && <span>{others === 1 ? "1 entry" : `${others} entries`} of somebody else {others === 1 ? "waits" : "wait"} here until they sign in again.</span>}
      {refused && <span>One entry was refused: {refused} <button type="button" className="underline min-h-11 px-2" onClick={() => setRefused("")}>Noted</button></span>}
    </div>
  );
}
