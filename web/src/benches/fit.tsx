import type { Quantity } from "../model/types";
import { Button } from "../parts/Button";
import { useKey } from "../parts/keys";
import { type AtStep, mayAt } from "./bench";

type Props = { pack: { thickness: Quantity; count: number }[]; step: AtStep | undefined };

/** Takes the shims of what comes next out of the drawer at a step, and begins the next trial with them. */
export function FitPack({ pack, step }: Props) {
  const fits = step !== undefined && !step.preview && pack.length > 0 && mayAt(step, "fit");
  const fit = () => step?.say({ act: "fit", pack });
  useKey("act", "take from the drawer", fit, fits);
  if (!fits) return null;
  return (
    <Button look="go" hint="F" name="fit" className="w-full mt-2.5" onClick={fit}>
      Take from the drawer
    </Button>
  );
}
