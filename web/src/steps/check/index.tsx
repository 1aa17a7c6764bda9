import type { PropsOf } from "../props";
import { Lines } from "../test/Lines";

/** Lines to look at, each with its outcomes. */
export default function CheckStep(p: PropsOf<"check">) {
  return <Lines {...p} />;
}
