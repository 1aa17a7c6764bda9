import { useState } from "react";
import { useAddPerson, usePeople } from "../../data/people";
import { Answers } from "../../parts/Answers";
import { Form, useForm } from "../../parts/Form";
import { Listed } from "../../parts/Listed";
import { fresh, type Role, roleOf, roles } from "./roles";
import { Person } from "./Person";

/** People, for leads: add, change, close. The record goes on naming whoever left. */
export function People() {
  const list = usePeople();
  return (
    <Listed
      title="People"
      list={list.data}
      error={list.error}
      keyOf={(p) => p.login}
      row={(p) => <Person person={p} />}
    >
      <Add />
    </Listed>
  );
}

function Add() {
  const add = useAddPerson();
  const [role, setRole] = useState<Role>("mechanic");
  const { said, line, clear } = useForm({ name: "", login: "", password: "" }, add);
  return (
    <Form
      label="Add a person"
      write={add}
      value={{ ...said, role }}
      onTaken={clear}
      className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4 items-end"
      go="Add"
    >
      {line("name", "Name", { required: true })}
      {line("login", "Sign-in name, lower case", { autoCapitalize: "none", required: true })}
      {line("password", "First password (tell them in person)", fresh)}
      <Answers
        label="Role"
        answers={roles}
        chosen={role}
        keyed={false}
        marks
        onPick={(id) => setRole(roleOf(id))}
      />
    </Form>
  );
}
