import "fake-indexeddb/auto";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactElement, type ReactNode, useState } from "react";
import { vi } from "vitest";
import type { Person, Unit } from "../model/types";
import { KeptFor } from "../parts/kept";
import { KeysProvider } from "../parts/keys";

/** The units the parts are tested with. */
export const units: Unit[] = [
  { symbol: "mm", dimension: "length", system: "metric", factor: 0.001, decimals: 2, paired: "thou" },
  { symbol: "thou", dimension: "length", system: "inch", factor: 0.0000254, decimals: 1, paired: "mm" },
  { symbol: "N·m", dimension: "torque", system: "metric", factor: 1, decimals: 0, paired: "lb-ft" },
  { symbol: "lb-ft", dimension: "torque", system: "inch", factor: 1.3558179, decimals: 0, paired: "N·m" },
];

/** What every screen has round it: keys, a person's drafts, and the units as read from the server. */
function Stage({ cache, help, children }: { cache: QueryClient; help: () => void; children: ReactNode }) {
  return (
    <QueryClientProvider client={cache}>
      <KeysProvider onHelp={help}>
        <KeptFor scope="ilva">{children}</KeptFor>
      </KeysProvider>
    </QueryClientProvider>
  );
}

/** Shows a part as a screen would, to whoever is signed in, with a hand that types and presses. */
export function stage(part: ReactElement, session: { person: Partial<Person> } | null = null) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  cache.setQueryData(["units"], units);
  cache.setQueryData(["session"], session);
  cache.setQueryData(["catalogue"], { labels: {}, calculators: [] });
  const help = vi.fn();
  const on = (p: ReactElement) => (
    <Stage cache={cache} help={help}>
      {p}
    </Stage>
  );
  const shown = render(on(part));
  return { ...shown, again: (p: ReactElement) => shown.rerender(on(p)), hand: userEvent.setup(), help };
}

/** A part whose value its screen holds. */
export function Held<T>({
  start,
  children,
}: {
  start: T;
  children: (v: T, on: (v: T) => void) => ReactNode;
}) {
  const [value, onValue] = useState(start);
  return children(value, onValue);
}
