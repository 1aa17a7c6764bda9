import { createContext, type ReactNode, useContext } from "react";
import { createPortal } from "react-dom";

/** The place in the margin where a step's meaning goes; see StepBench. */
export const Margin = createContext<HTMLElement | null>(null);

/** Puts a step's meaning into the margin beside the sheet. */
export function MarginSlot({ children }: { children: ReactNode }) {
  const slot = useContext(Margin);
  const apart = "not-first:border-t not-first:border-ink not-first:pt-3 not-first:mt-3";
  return slot && createPortal(<div className={`flex flex-col gap-4 ${apart}`}>{children}</div>, slot);
}
