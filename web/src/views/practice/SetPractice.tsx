import { useState } from "react";
import { usePeople } from "../../data/people";
import { useSetPractice } from "../../data/practice";
import { anotherSeed } from "../../model/practice";
import { Form, useForm } from "../../parts/Form";
import { Picked } from "../../parts/Picked";

const fresh = () => ({ kind: "axle", level: "clean", for: "", note: "" }) as const;

/** A lead sets one and the same for a person, or for everyone. */
export function SetPractice() {
  const set = useSetPractice();
  const [seed, another] = useState(anotherSeed);
  const people = usePeople().data ?? [];
  const { said, put, line, clear } = useForm<Record<"kind" | "level" | "for" | "note", string>>(fresh(), set);
  const level = said.level === "noisy" || said.level === "trap" ? said.level : "clean";
  const kind = said.kind === "housing" || said.kind === "fault" ? said.kind : "axle";
  return (
    <Form
      label="Set a practice"
      write={set}
      value={{ kind, level, seed, for: said.for, note: said.note }}
      onTaken={() => {
        clear();
        another(anotherSeed());
      }}
      className="p-5 grid grid-cols-4 max-[820px]:grid-cols-1 gap-3 items-end"
      go="Set it"
    >
      <Picked
        label="What"
        value={kind}
        onValue={(v) => put("kind", v)}
        of={[
          { id: "axle", text: "Axle" },
          { id: "housing", text: "Bell housing" },
          { id: "fault", text: "Driveline with a fault" },
        ]}
      />
      <Picked
        label="Level"
        value={level}
        onValue={(v) => put("level", v)}
        of={[
          { id: "clean", text: "Clean" },
          { id: "noisy", text: "Noisy" },
          { id: "trap", text: "With a trap" },
        ]}
      />
      <Picked
        label="For"
        value={said.for}
        onValue={(v) => put("for", v)}
        of={[{ id: "", text: "everyone" }, ...people.map((p) => ({ id: p.login, text: p.name }))]}
      />
      {line("note", "A word with it")}
    </Form>
  );
}
