import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { moment } from "../model/moment";
import type { PersonChange, PersonView } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";

type Role = PersonView["role"];

const roles = [
  { id: "mechanic", text: "Mechanic" },
  { id: "lead", text: "Lead" },
  { id: "reader", text: "Reader" },
] as const;

const roleOf = (id: string): Role => roles.find((r) => r.id === id)?.id ?? "reader";

/** Who works here, for leads: add, change, close. The record goes on naming whoever left. */
export function People() {
  const cache = useQueryClient();
  const list = useQuery({
    queryKey: ["people"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/people"))).people,
  });
  const again = () => void cache.invalidateQueries({ queryKey: ["people"] });
  return (
    <section className="bg-sheet border border-ink" aria-labelledby="people">
      <h2 id="people" className="text-head px-5 py-3 border-b border-hair">
        Who works here
      </h2>
      <Fault error={list.error} />
      <ul>
        {list.data?.map((p) => (
          <Row key={p.login} person={p} onChanged={again} />
        ))}
      </ul>
      <Add onAdded={again} />
    </section>
  );
}

function Row({ person: p, onChanged }: { person: PersonView; onChanged: () => void }) {
  const [renewing, setRenewing] = useState(false);
  const [password, setPassword] = useState("");
  const change = useMutation({
    mutationFn: (body: PersonChange) =>
      unwrap(client.POST("/api/v1/people/{login}", { params: { path: { login: p.login } }, body })),
    onSuccess: () => {
      setRenewing(false);
      setPassword("");
      onChanged();
    },
  });
  const left = p.closed_at !== undefined;
  return (
    <li className="px-5 py-2.5 border-b border-hair flex flex-wrap items-center gap-x-5 gap-y-2">
      <div className="grow basis-[200px]">
        <p className="font-semibold">{p.name}</p>
        <p className="text-quiet text-small">
          signs in as <span className="font-mono">{p.login}</span>
          {p.closed_at && `, closed ${moment(p.closed_at)}`}
          {p.pin_asleep && ", PIN asleep after too many wrong ones: the password wakes it"}
        </p>
      </div>
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
      {renewing && (
        <form
          className="basis-full flex flex-wrap gap-3 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            change.mutate({ password });
          }}
        >
          <Field
            label={`New password of ${p.name}; ends every session`}
            type="password"
            autoComplete="new-password"
            value={password}
            onValue={setPassword}
            required
            className="grow basis-[260px]"
          />
          <Button look="go" type="submit" disabled={change.isPending}>
            Change it
          </Button>
        </form>
      )}
      {change.error && (
        <div className="basis-full">
          <Fault error={change.error} />
        </div>
      )}
    </li>
  );
}

function Add({ onAdded }: { onAdded: () => void }) {
  const [name, setName] = useState("");
  const [login, setLogin] = useState("");
  const [role, setRole] = useState<Role>("mechanic");
  const [password, setPassword] = useState("");
  const add = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/people", { body: { login, name, role, password } })),
    onSuccess: () => {
      setName("");
      setLogin("");
      setPassword("");
      onAdded();
    },
  });
  const fault = (field: string) => (add.error instanceof ApiError ? add.error.field(field) : undefined);
  const told = ["name", "login", "role", "password"].some((f) => fault(f));
  return (
    <form
      className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4 items-end"
      aria-label="Somebody new"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
    >
      <Field label="Name of somebody new" value={name} onValue={setName} error={fault("name")} required />
      <Field
        label="Signs in as, in small letters"
        value={login}
        onValue={setLogin}
        error={fault("login")}
        autoCapitalize="none"
        required
      />
      <Field
        label="First password, told in person"
        type="password"
        autoComplete="new-password"
        value={password}
        onValue={setPassword}
        error={fault("password")}
        required
      />
      <Answers
        label="Role of somebody new"
        answers={roles}
        chosen={role}
        keyed={false}
        marks
        onPick={(id) => setRole(roleOf(id))}
      />
      <div className="col-span-full">
        {!told && <Fault error={add.error} />}
        <Button look="go" type="submit" name="add-person" disabled={add.isPending}>
          Add
        </Button>
      </div>
    </form>
  );
}
