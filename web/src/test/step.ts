import { vi } from "vitest";
import { believed } from "../model/json";
import type { EntryView, Kind, StepOf } from "../model/types";
import type { PropsOf } from "../steps/props";

/** An entry as a step shows it: said by Odo, at a place. */
export const entry = (act: string, more: object = {}) =>
  believed<EntryView>({
    id: `e.${act}.${JSON.stringify(more).length}`,
    act,
    seq: 1,
    body: {},
    says: act,
    by: { login: "odo", name: "Odo Brandt", role: "mechanic" },
    at: "2026-11-26T10:00:00Z",
    ...more,
  });

/** What the screen of a kind gets, with what the step has beside the usual; say is heard, and takes at once. */
export function at<K extends Kind>(kind: K, more: object, acts: string[] = []): PropsOf<K> {
  const view = believed<StepOf<K>>({
    kind,
    step: { id: "step", title: "A step", kind },
    status: "open",
    entries: [],
    cautions: [],
    gate: [],
    acts: acts.map((act) => ({ act })),
    ...more,
  });
  return {
    rebuild: "r",
    view,
    plan: believed<PropsOf<K>["plan"]>({
      route: { stations: [] },
      sheet: { family: "Brakka T2", version: 1 },
    }),
    say: vi.fn((_, taken?: () => void) => taken?.()),
    fault: null,
    refused: undefined,
  };
}

/** What was said, in its order. */
export const said = (p: { say: unknown }) =>
  vi.mocked(believed<(d: unknown) => void>(p.say)).mock.calls.map(([d]) => d);
