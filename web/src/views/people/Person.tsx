import { useState } from "react";
import { useChangePerson } from "../../data/people";
import { moment } from "../../model/moment";
import type { PersonView } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Form, useForm } from "../../parts/Form";
import { Row } from "../../parts/Listed";
import { fresh, roleOf, roles } from "./roles";

export function Person({ person: p }: { person: PersonView }) {
  const [renewing, setRenewing] = useState(false);
  const change = useChangePerson(p.login);
  const { said, line, clear } = useForm({ password: "" }, change);
  const left = p.closed_at !== undefined;
  const done = () => {
    setRenewing(false);
    clear();
  };
  const says = `signs in as ${p.login}${p.closed_at ? `, left ${moment(p.closed_at)}` : ""}${
    p.pin_asleep ? ", PIN asleep after too many wrong ones: the password wakes it" : ""
  }`;
  return (
    <>
      <Row title={p.name} says={says}>
        {!left && (
          <Answers
            label={`Role of ${p.name}`}
            answers={roles}
            chosen={p.role}
            keyed={false}
            busy={change.isPending}
            onPick={(id) => change.mutate({ role: roleOf(id) })}
          />
        )}
        {!left && <Button onClick={() => setRenewing(!renewing)}>New password</Button>}
        <Button disabled={change.isPending} onClick={() => change.mutate({ closed: !left })}>
          {left ? "Reopen account" : "Close account"}
          <span className="sr-only"> of {p.name}</span>
        </Button>
      </Row>
      {renewing && (
        <Form
          label={`Password of ${p.name}`}
          write={change}
          value={said}
          onTaken={done}
          className="px-5 pb-3 flex flex-wrap gap-3 items-end"
          go="Change password"
        >
          {line("password", `New password for ${p.name} (signs them out everywhere)`, {
            ...fresh,
            className: "grow basis-[260px]",
          })}
        </Form>
      )}
      {!renewing && <Fault error={change.error} />}
    </>
  );
}
