import { useState } from "react";
import { chainOf } from "./links";
import { liveAt, type StepOf } from "../../model/types";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

type Old = ReturnType<typeof liveAt>;
type Lines = ReturnType<typeof chainOf>;

/** The decision as it is being said: the choice, why, and the chain of a root cause. */
export type Decision = ReturnType<typeof useDecision>;

/** What is said, and what may be said; lacking is called when the reason is missing. */
export function useDecision({ view, say }: PropsOf<"decide">, lacking: () => void) {
  const old = liveAt(view.entries, "decision");
  const [choice, setChoice] = useKept(`choice.${view.step.id}`);
  const [reason, setReason] = useKept(`reason.${view.step.id}`);
  const was = JSON.stringify(view.chain ?? []);
  const [kept, setKept] = useKept(`chain.${view.step.id}`, was);
  const [asked, setAsked] = useState(false);

  const chain = written(chainOf(kept));
  const { picked, because, lacks } = reasoned(view, old, choice, reason);
  const touched = choice !== "" || reason !== "" || JSON.stringify(chain) !== was;
  const unchanged = old !== undefined && !touched;

  const clear = () => {
    setChoice("");
    setReason("");
    setKept(was);
  };
  const decide = () => {
    setAsked(lacks);
    if (lacks) {
      lacking();
      return;
    }
    say(
      {
        act: "decision",
        outcome: picked,
        ...(because && { reason: because }),
        ...(chain.length > 0 && { chain }),
        ...(old && { supersedes: old.id }),
      },
      clear,
    );
  };
  return {
    old,
    picked,
    setChoice,
    reason,
    setReason,
    chain: chainOf(kept),
    setChain: (c: Lines) => setKept(JSON.stringify(c)),
    decide,
    may: picked !== "" && !unchanged,
    unchanged,
    lacking: asked && lacks,
  };
}

/** The way that counts and its reason, which stands as long as the choice does. */
function reasoned(view: StepOf<"decide">, old: Old, choice: string, reason: string) {
  const preset = view.choices.find((c) => c.default)?.id ?? "";
  const picked = choice || (old?.body.outcome ?? preset);
  const stood = picked === old?.body.outcome ? old.body.reason : undefined;
  const because = reason.trim() || (stood ?? "");
  const lacks = because === "" && view.choices.some((c) => c.id === picked && c.reason);
  return { picked, because, lacks };
}

/** The lines without the space a hand left at the end of how it went. */
function written(lines: Lines): Lines {
  return lines.map(({ how, ...l }) => ({ ...l, ...(how?.trim() && { how: how.trim() }) }));
}
