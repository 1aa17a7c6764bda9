import { useState } from "react";
import { may } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import type { PropsOf } from "../props";

type Props = Pick<PropsOf<"decide">, "view" | "say">;
type Line = NonNullable<Props["view"]["undone"]>[number];

/** What was undone along the way, and how each was put back; nothing is signed before all is. */
export function Undone({ view, say }: Props) {
  const { undone } = view;
  if (!undone || undone.length === 0) return null;
  return (
    <section aria-label="Undone and put back" className="border border-ink mt-3.5">
      <h3 className="px-4 py-2 border-b border-hair text-head">Undone and put back</h3>
      <ul>
        {undone.map((u) => (
          <li
            key={u.find ?? u.name}
            className={`px-4 py-2 border-b border-hair last:border-b-0 border-l-6 ${u.back ? "border-l-in" : "border-l-out"}`}
          >
            <b className="font-semibold">{u.back ? u.name : `Still open: ${u.name}`}</b>{" "}
            <span className="text-quiet text-note">{[u.left, u.back].filter(Boolean).join("; ")}</span>
            <PutBack line={u} view={view} say={say} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What came off beside the plan is said to be back here; of the rest the lead says how it was put back. */
const PutBack = ({ line, view, say }: Props & { line: Line }) => {
  const { find, back, name } = line;
  if (back) return null;
  if (!find) return may(view, "stands") && <HowBack line={line} say={say} />;
  return (
    may(view, "back") && (
      <Button name="back" value={find} onClick={() => say({ act: "back", item: find })}>
        {name} is back on
      </Button>
    )
  );
};

function HowBack({ line, say }: Pick<Props, "say"> & { line: Line }) {
  const [reason, setReason] = useState("");
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim()) say({ act: "stands", item: line.key ?? "", reason }, () => setReason(""));
      }}
    >
      <Field
        label="How it was put back, by whom"
        value={reason}
        onValue={setReason}
        className="grow basis-[240px]"
      />
      <Button type="submit" name="stands" value={line.key} disabled={reason.trim() === ""}>
        It is back
      </Button>
    </form>
  );
}
