import { useState } from "react";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import type { PropsOf } from "../props";

/** Leave a measurement as it is, with a reason on record. */
export function Accept({ say, view }: PropsOf<"measure">) {
  const [reason, setReason] = useKept(`accept.${view.step.id}`);
  const [open, setOpen] = useState(false);
  if (!open && reason === "")
    return (
      <button
        type="button"
        className="mt-2 min-h-11 text-quiet text-small underline underline-offset-3"
        onClick={() => setOpen(true)}
      >
        Accept as it is
      </button>
    );
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        say({ act: "accept", reason }, () => setReason(""));
      }}
    >
      <Field
        label="Reason to accept it"
        value={reason}
        onValue={setReason}
        autoFocus={open}
        className="grow"
      />
      <Button type="submit" look="quiet" disabled={reason.trim() === ""}>
        Accept as it is
      </Button>
    </form>
  );
}
