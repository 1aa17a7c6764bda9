import { useState } from "react";
import { dayFromNow, weekday } from "../model/moment";
import { may } from "../model/types";
import { Button } from "../parts/Button";
import { usePromise } from "../data/rebuilds";
import { DayField } from "../parts/DayField";
import { Field } from "../parts/Field";
import { useKey } from "../parts/keys";
import type { StepProps } from "./props";

type Props = Pick<StepProps, "rebuild" | "view" | "say"> & { way: string };

/** The day that can be kept, what it rests on, and the key that promises it. */
export function PromiseDay({ rebuild, view, say, way }: Props) {
  // What is still on its way has changed nothing yet: it would be asked too early, and not again.
  const landed = view.entries.filter((e) => e.hash !== "").length;
  const { data: p, isPlaceholderData: overtaken } = usePromise(rebuild, way, landed);
  const free = may(view, "promised");
  const better = p !== undefined && !overtaken && p.day !== "" && p.day !== p.promised;
  const promise = (due: string, reason = "", then?: () => void) =>
    say({ act: "promised", due, ...(reason && { reason }) }, then);
  useKey("promise", "promise the day you can keep", () => p && promise(p.day), free && better);
  if (!p) return null;
  return (
    <section aria-label="Promise date" className="flex flex-col gap-2">
      <p className="text-quiet text-small">
        Promised for{" "}
        <b className="font-mono font-medium text-ink">
          {weekday(p.promised)} {p.promised}
        </b>
      </p>
      <p>{p.says}</p>
      {p.before.length > 0 && (
        <table className="w-full text-note">
          <caption className="sr-only">Promised before this one, still on your list</caption>
          <tbody>
            {p.before.map((b) => (
              <tr key={b.rebuild} className="border-b border-hair">
                <th scope="row" className="text-left font-normal py-0.5">
                  <span className="font-mono">{b.number}</span> {b.unit}
                </th>
                <td className="text-right whitespace-nowrap">{weekday(b.promised)}</td>
                <td className="font-mono text-right whitespace-nowrap pl-2">
                  {b.hours_left ? `${b.hours_left} h` : "?"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {better && may(view, "promised") && (
        <Button hint="Y" name="promised" value={p.day} onClick={() => promise(p.day)}>
          Promise {weekday(p.day)} {p.day}
        </Button>
      )}
      {may(view, "promised") && <AnotherDay from={p.promised} onDay={promise} />}
    </section>
  );
}

type AnotherProps = {
  from: string;
  onDay: (due: string, reason: string, then: () => void) => void;
};

/** A day of one's own: the customer is away, somebody helps. */
function AnotherDay({ from, onDay }: AnotherProps) {
  const [open, setOpen] = useState(false);
  const [day, setDay] = useState("");
  const [why, setWhy] = useState("");
  if (!open)
    return (
      <Button look="quiet" onClick={() => setOpen(true)}>
        Promise another day
      </Button>
    );
  const ready = day >= dayFromNow(0) && day !== from;
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!ready) return;
        onDay(day, why.trim(), () => setOpen(false));
      }}
    >
      <DayField label="Promised for" value={day} onValue={setDay} autoFocus />
      <Field label="Reason" value={why} onValue={setWhy} />
      <Button type="submit" name="promised" value="another" disabled={!ready}>
        Promise this day
      </Button>
    </form>
  );
}
