import { useState } from "react";
import { Button } from "../Button";
import { useKey } from "../keys";
import { later } from "../later";
import type { FollowProps } from "./Follow";

const Follow = later(async () => (await import("./Follow")).default);

/** Gauges that speak, where some do: followed when one asks for it. */
export function Gauge({ gauges, ...rest }: FollowProps) {
  const [open, setOpen] = useState(false);
  const speaking = gauges.filter((g) => g.speaks);
  const mayOpen = speaking.length > 0 && !open;
  useKey("take", "follow the gauge", () => setOpen(true), mayOpen);
  if (open && speaking.length > 0) return <Follow gauges={speaking} {...rest} />;
  if (!mayOpen) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-x-3 text-note">
      <Button look="quiet" hint="L" name="follow" onClick={() => setOpen(true)}>
        Follow the gauge
      </Button>
      <span className="text-quiet">
        {speaking.length > 2 ? `${speaking.length} gauges` : speaking.map((g) => g.name).join(", ")} can be
        read from here.
      </span>
    </p>
  );
}
