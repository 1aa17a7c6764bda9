import type { PropsOf } from "../props";
import { Lines } from "../test/Lines";

/** Lines to look at, each with its outcomes; the words for the customer, where they are told here. */
export default function CheckStep(p: PropsOf<"check">) {
  return (
    <>
      <Handover plan={p.plan} id={p.view.step.id} />
      <Lines {...p} />
    </>
  );
}

/** What the customer is told and takes home, from the route. */
function Handover({ plan, id }: { plan: PropsOf<"check">["plan"]; id: string }) {
  const handover = plan.route.stations.flatMap((s) => s.steps).find((s) => s.id === id)?.handover;
  return (
    handover && (
      <ol aria-label="Words for the customer" className="mt-3.5 pl-8 list-decimal text-line">
        {handover.map((h) => (
          <li key={h}>{h}</li>
        ))}
      </ol>
    )
  );
}
