import { may } from "../../model/types";
import { Button } from "../../parts/Button";
import { useKey } from "../../parts/keys";
import type { LineProps } from "./props";

type Props = LineProps & {
  /** The answer that waits until they are read. */
  held: string;
  onRead: (id: string) => void;
};

/** The hazards of a line, and of the answer that is being given there. */
export const hazardsOf = (item: LineProps["item"], outcome: string) => [
  ...(item.cautions ?? []),
  ...(item.answers.find((a) => a.id === outcome)?.cautions ?? []),
];

/** What can happen at this line; grave ones are read by name before it is answered. */
export function Hazards({ view, item, isCurrent, firstAt, held, onRead }: Props) {
  const hazards = hazardsOf(item, held);
  const mayRead = may(view, "acknowledge");
  const first = mayRead ? hazards.find((c) => c.grave && !c.by) : undefined;
  const firstId = first?.id ?? "";
  const says = `acknowledge: ${first?.title ?? ""}`;
  useKey("acknowledge", says, () => onRead(firstId), isCurrent && firstId !== "");
  if (hazards.length === 0) return null;
  return (
    <ul className="mb-2 border-l-4 border-undecided pl-3 text-note">
      {hazards.map((c) => (
        <Hazard
          key={c.id}
          caution={c}
          whole={firstAt.get(c.id) === item.id || (c.grave === true && !c.by)}
          keyed={isCurrent && c.id === firstId}
          onRead={mayRead && c.grave && !c.by ? () => onRead(c.id) : undefined}
        />
      ))}
      {held && (
        <li role="status" className="py-0.5">
          Read this first: your answer goes down with it.
        </li>
      )}
    </ul>
  );
}

type HazardProps = {
  caution: NonNullable<LineProps["item"]["cautions"]>[number];
  whole: boolean;
  keyed: boolean;
  onRead: (() => void) | undefined;
};

const Hazard = ({ caution: c, whole, keyed, onRead }: HazardProps) => (
  <li className="py-0.5 flex flex-wrap items-center gap-x-3">
    <span className="grow basis-[260px]">
      <b className="text-undecided">{c.title}.</b> {whole && c.text}
    </span>
    {c.by && <span className="text-quiet text-small">confirmed by {c.by}</span>}
    {onRead && (
      <Button name="acknowledge" value={c.id} {...(keyed && { hint: "A" })} onClick={onRead}>
        Read first: {c.title}
      </Button>
    )}
  </li>
);
