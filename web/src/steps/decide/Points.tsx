import { useState } from "react";
import { may } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import type { PropsOf } from "../props";

type Point = NonNullable<PropsOf<"decide">["view"]["points"]>[number];

/** What does not read well in this record, before it is signed; some of it wants the lead's answer. */
export function Points({ view, say }: Pick<PropsOf<"decide">, "view" | "say">) {
  const { points } = view;
  if (!points || points.length === 0) return null;
  const open = points.find((p) => p.item && !p.answer && may(view, "outcome"));
  return (
    <section aria-label="Not as it should be" className="border border-ink mt-3.5">
      <h3 className="px-4 py-2 border-b border-hair text-head">Not as it should be</h3>
      <ul>
        {points.map((p) => (
          <li
            key={`${p.step} ${p.says}`}
            data-current={p === open || undefined}
            className="px-4 py-2.5 border-b border-hair last:border-b-0 border-l-6 border-l-undecided"
          >
            <p>
              <b className="font-semibold">{p.says}</b>{" "}
              <span className="text-quiet text-note">
                {p.title}, {p.by}
              </span>
            </p>
            {p.left && <p className="text-note">Left so: {p.left}</p>}
            {p.answer && <p className="text-note">Answered: {p.answer}</p>}
            {p.item && !p.answer && may(view, "outcome") && <Answered point={p} say={say} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Answered({ point, say }: { point: Point; say: PropsOf<"decide">["say"] }) {
  const [note, setNote] = useState("");
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (note.trim() === "") return;
        say({ act: "outcome", item: point.item ?? "", outcome: "answered", note }, () => setNote(""));
      }}
    >
      <Field label="What was done about it" value={note} onValue={setNote} className="grow basis-[240px]" />
      <Button type="submit" name="answered" value={point.item} disabled={note.trim() === ""}>
        Answer it
      </Button>
    </form>
  );
}
