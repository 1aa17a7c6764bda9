import { Button } from "../parts/Button";
import { useKey } from "../parts/keys";
import type { StepView } from "../model/types";
import type { StepProps } from "./props";

type Caution = StepView["cautions"][number];

/** Hazards where the hand is, each acknowledged by name. */
export function Cautions({ cautions, say }: { cautions: Caution[]; say: StepProps["say"] }) {
  const first = cautions.find((c) => !c.by);
  useKey(
    "acknowledge",
    "confirm the caution",
    () => first && say({ act: "acknowledge", item: first.id }),
    first !== undefined,
  );
  return (
    <div className="mt-3.5 flex flex-col gap-3">
      {cautions.map((c) => (
        <section
          key={c.id}
          aria-label={c.title}
          className="border border-ink border-l-8 border-l-undecided bg-sheet p-4 flex flex-wrap gap-4 items-center"
        >
          <svg
            width="46"
            height="42"
            viewBox="0 0 46 42"
            aria-hidden="true"
            className="text-undecided shrink-0"
          >
            <path d="M4 38V14l8-8h22l8 8v24z" fill="none" stroke="currentColor" strokeWidth="2.4" />
            <path d="M23 14v13M23 31v3" stroke="currentColor" strokeWidth="3.4" />
          </svg>
          <div className="grow basis-[260px]">
            <h3 className="text-head text-undecided">{c.title}</h3>
            <p className="text-line">{c.text}</p>
          </div>
          {c.by ? (
            <p className="text-quiet">confirmed by {c.by}</p>
          ) : (
            <Button
              look="go"
              {...(c.id === first?.id && { hint: "A" })}
              name="acknowledge"
              value={c.id}
              onClick={() => say({ act: "acknowledge", item: c.id })}
            >
              I have read this: {c.title}
            </Button>
          )}
        </section>
      ))}
    </div>
  );
}
