import { Link, useNavigate } from "@tanstack/react-router";
import { useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { endSession, signedOut, useSession } from "../data/session";
import { useHelp, useKey } from "./keys";

export const theme = {
  now: () => document.documentElement.dataset["theme"] ?? "light",
  set(name: string) {
    document.documentElement.dataset["theme"] = name;
    localStorage.setItem("handwerk.theme", name);
  },
  turn: () => theme.set(theme.now() === "dark" ? "light" : "dark"),
};

/** The line at the top of every view. */
export function Bar({ children }: { children: ReactNode }) {
  const onHelp = useHelp();
  const session = useSession();
  const cache = useQueryClient();
  const go = useNavigate();
  const leave = async () => {
    await endSession();
    await go({ to: "/" });
    signedOut(cache);
    cache.removeQueries({ predicate: (q) => !["session", "left"].includes(String(q.queryKey[0])) });
  };
  useKey("board", "go to the board", () => void go({ to: "/" }));
  useKey("find", "search rebuilds, customers, vehicles, units, sheets", () => void go({ to: "/find" }));
  useKey("calculators", "open the calculators", () => void go({ to: "/calculators" }));
  useKey("light", "switch light or dark", theme.turn);
  const item =
    "min-h-11 min-w-11 px-2 max-[900px]:px-1.5 flex items-center justify-center text-quiet hover:text-ink";
  return (
    <header className="no-print flex flex-wrap min-[701px]:flex-nowrap items-center gap-x-5 max-[1100px]:gap-x-3 px-5 max-[1100px]:px-3 min-h-[52px] border-b border-ink bg-sheet">
      {children}
      <nav
        aria-label="Main menu"
        className="ml-auto flex flex-wrap min-[701px]:flex-nowrap items-center whitespace-nowrap"
      >
        <Link to="/" className={`${item} no-underline`}>
          Board
        </Link>
        <Link to="/find" className={`${item} gap-1.5 no-underline`}>
          <kbd>/</kbd> find
        </Link>
        <Link to="/calculators" className={`${item} gap-1.5 no-underline`}>
          <kbd>Q</kbd> <span className="max-[900px]:sr-only">calculators</span>
        </Link>
        <Link to="/shop" className={`${item} no-underline`}>
          Shop
        </Link>
        <button type="button" className={`${item} gap-1.5`} onClick={onHelp}>
          <kbd>?</kbd> keys
        </button>
        <Link to="/account" className={`${item} no-underline`}>
          {session.data?.person.name}
        </Link>
        <button type="button" className={item} onClick={() => void leave()}>
          Sign out
        </button>
      </nav>
    </header>
  );
}
