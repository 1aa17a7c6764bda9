import { useEffect, useReducer, useRef } from "react";
import type { Draft } from "../model/types";
import type { BenchProps } from "./bench";

/**
 * For a hand that is faster than the server: each thing it says is sent when
 * the one before it is on record, as a draft made from what stands then. After
 * a refusal the rest waits for the hand.
 */
export function useInTurn<T>(
  busy: boolean,
  say: BenchProps<string>["say"],
  draftOf: (said: T) => Draft | undefined,
) {
  const waiting = useRef<T[]>([]);
  const goes = useRef(true);
  const [, look] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    if (busy || !goes.current) return;
    let draft: Draft | undefined;
    while (!draft && waiting.current.length > 0) draft = waiting.current.splice(0, 1).map(draftOf)[0];
    if (!draft) return;
    goes.current = false;
    say(draft, () => {
      goes.current = true;
    });
  });
  return (said: T) => {
    waiting.current.push(said);
    goes.current ||= !busy;
    look();
  };
}
