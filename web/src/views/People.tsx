import { useState } from "react";
import { useAddPerson, useChangePerson, usePeople } from "../data/people";
import { moment } from "../model/moment";
import type { PersonView } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Form, useForm } from "../parts/Form";
import { Listed, Row } from "../parts/Listed";

type Role = PersonView["role"];

const roles = [
  { id: "mechanic", text: "Mechanic" },
  { id: "lead", text: "Lead" },
  { id: "reader", text: "Reader" },
] as const;

const roleOf = (id: string): Role => roles.find((r) => r.id === id)?.id ?? "reader";
const fresh = { type: "password", autoComplete: "new-password", required: true } as const;

/** Who works here, for leads: add, change, close. The record goes on naming whoever left. */
export function People() {
  const list = usePeople();
  return (
    <Listed
      title="Who works here"
      list={list.data}
      error={list.error}
      keyOf={(p) => p.login}
      row={(p) => <Person person={p} />}
    >
      <Add />
    </Listed>
  );
}

function Person({ person: p }: { person: PersonView }) {
  const [renewing, setRenewing] = useState(false);
  const change = useChangePerson(p.login);
  const { said, line, clear } = useForm({ password: "" }, change);
  const left = p.closed_at !== undefined;
  const done = () => {
    setRenewing(false);
    clear();
  };
  const says = `signs in as ${p.login}${p.closed_at ? `, closed ${moment(p.closed_at)}` : ""}${
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
          {left ? "Open again" : "Close"}
          <span className="sr-only"> the account of {p.name}</span>
        </Button>
      </Row>
      {renewing && (
        <Form
          label={`Password of ${p.name}`}
          write={change}
          value={said}
          onTaken={done}
          className="px-5 pb-3 flex flex-wrap gap-3 items-end"
          go="Change it"
        >
          {line("password", `New password of ${p.name}; ends every session`, {
            ...fresh,
            className: "grow basis-[260px]",
          })}
        </Form>
      )}
      {!renewing && <Fault error={change.error} />}
    </>
  );
}

function Add() {
  const add = useAddPerson();
  const [role, setRole] = useState<Role>("mechanic");
  const { said, line, clear } = useForm({ name: "", login: "", password: "" }, add);
  return (
    <Form
      label="Somebody new"
      write={add}
      value={{ ...said, role }}
      onTaken={clear}
      className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4 items-end"
      go="Add"
    >
      {line("name", "Name of somebody new", { required: true })}
      {line("login", "Signs in as, in small letters", { autoCapitalize: "none", required: true })}
      {line("password", "First password, told in person", fresh)}
      <Answers
        label="Role of somebody new"
        answers={roles}
        chosen={role}
        keyed={false}
        marks
        onPick={(id) => setRole(roleOf(id))}
      />
    </Form>
  );
}
