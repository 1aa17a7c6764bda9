import type { StackPart } from "../../model/types";

/** That a part is renewed whenever it was out, and by which rule. */
export function Once({ part }: { part: StackPart }) {
  if (!part.once) return null;
  return (
    <span className="ml-3 text-small font-normal text-undecided">
      <span className="sr-only">, </span>always replaced{part.rule && `: ${part.rule}`}
    </span>
  );
}
