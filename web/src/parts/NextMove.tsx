import type { ReactNode } from "react";
import { begun } from "../model/words";

/** The next move in a sentence one could say aloud, and what belongs to it. */
export const NextMove = ({ says, children }: { says: string; children?: ReactNode }) => (
  <div className="border-t border-ink pt-3">
    <h3 className="text-head">Next</h3>
    <p>{begun(says)}.</p>
    {children}
  </div>
);
