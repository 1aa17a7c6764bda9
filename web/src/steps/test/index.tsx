import type { PropsOf } from "../props";
import { Lines } from "./Lines";

/** Tests, with what they mean together; for a drive card the card before stands beside. */
export default function TestStep(p: PropsOf<"test">) {
  return <Lines {...p} />;
}
