import { money } from "../../model/costs";
import { begun } from "../../model/words";
import { Button } from "../../parts/Button";
import type { ActsProps } from ".";

/** A driveline with a fault: tests that cost minutes, and parts that cost money. */
export const FaultActs = ({ out, onAct }: ActsProps) => (
  <>
    <p className="mt-3.5 text-line">{out.given.complaint}</p>
    <div role="group" aria-label="Test" className="flex flex-wrap gap-2 mt-3.5">
      {out.given.reads.map((read) => (
        <Button key={read} name="test" value={read} onClick={() => onAct({ read })}>
          {begun(read)}
        </Button>
      ))}
    </div>
    <h3 className="text-head mt-4">Order and fit</h3>
    <div role="group" aria-label="Order and fit" className="flex flex-wrap gap-2 mt-2">
      {out.given.parts?.map((p) => (
        <Button key={p.name} name="order" value={p.name} onClick={() => onAct({ order: p.name })}>
          {p.name}, {money(p.price)}
        </Button>
      ))}
    </div>
  </>
);
