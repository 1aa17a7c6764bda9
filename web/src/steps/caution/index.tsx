import { Cautions } from "../Cautions";
import type { PropsOf } from "../props";

/** Hazards alone, each acknowledged by name. */
export default function CautionStep({ view, say }: PropsOf<"caution">) {
  return <Cautions cautions={view.cautions} say={say} />;
}
