import { More } from "../parts/More";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { useSession } from "../parts/data";
import type { OpenSession } from "../model/types";
import { moment } from "../model/moment";
import { Bar } from "../parts/Bar";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { NewPIN, Tablets } from "./AtTheBench";
import { HelpContext } from "./help";
import { People } from "./People";
import { Programs } from "./Programs";
import { useTitle } from "../parts/focus";

/** One's own account: where one is signed in, and one's password. */
export function AccountView() {
  useTitle("Account");
  const help = useContext(HelpContext);
  const person = useSession().data?.person;
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">{person?.name}</h1>
      </Bar>
      <main tabIndex={-1} className="px-5 py-5 max-w-[980px] mx-auto grid gap-5">
        <p className="text-quiet text-line">
          {person?.role}, signs in as <span className="font-mono">{person?.login}</span>
        </p>
        <Sessions />
        <NewPassword />
        <NewPIN />
        {person?.role === "lead" && <People />}
        {person?.role === "lead" && <Tablets />}
        {person?.role === "lead" && <Programs />}
      </main>
    </div>
  );
}

function Sessions() {
  const cache = useQueryClient();
  const list = useQuery({
    queryKey: ["sessions"],
    queryFn: () => unwrap(client.GET("/api/v1/sessions")),
  });
  const end = useMutation({
    mutationFn: (id: string) =>
      unwrap(client.POST("/api/v1/sessions/{id}/end", { params: { path: { id } } })),
    onSettled: () => void cache.invalidateQueries({ queryKey: ["sessions"] }),
  });
  return (
    <section className="bg-sheet border border-ink" aria-labelledby="where">
      <h2 id="where" className="text-head px-5 py-3 border-b border-hair">
        Signed in at
      </h2>
      <Fault error={list.error ?? end.error} />
      <ul>
        {list.data?.sessions.map((s) => (
          <li
            key={s.id}
            className="flex flex-wrap items-center gap-x-5 gap-y-1 px-5 py-2 border-b border-hair last:border-b-0"
          >
            <div className="grow basis-[320px]">
              <p className="font-semibold">{s.this ? "This browser" : browserName(s)}</p>
              <p className="text-quiet text-small">
                from <span className="font-mono">{s.address}</span>, since{" "}
                <span className="font-mono">{moment(s.started)}</span>, last used{" "}
                <span className="font-mono">{moment(s.used)}</span>
              </p>
            </div>
            {!s.this && (
              <Button onClick={() => end.mutate(s.id)} disabled={end.isPending}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      <More more={list.data?.more} look="End some of these." />
    </section>
  );
}

/** What a browser calls itself, short; the kind of machine is what tells them apart. */
function browserName(s: OpenSession) {
  const machine = /\(([^;)]+)/.exec(s.browser)?.[1];
  return machine
    ? `A browser on ${machine}`
    : s.browser.slice(0, 60) || "A program that does not say its name";
}

function NewPassword() {
  const [current, setCurrent] = useState("");
  const [password, setPassword] = useState("");
  const cache = useQueryClient();
  const change = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/session/password", { body: { current, password } })),
    onSuccess: () => {
      setCurrent("");
      setPassword("");
      void cache.invalidateQueries({ queryKey: ["sessions"] });
    },
  });
  const fault = (name: string) => (change.error instanceof ApiError ? change.error.field(name) : undefined);
  const told = fault("current") ?? fault("password");
  return (
    <form
      className="bg-sheet border border-ink"
      aria-labelledby="password"
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate();
      }}
    >
      <h2 id="password" className="text-head px-5 py-3 border-b border-hair">
        New password
      </h2>
      <div className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4">
        <Field
          label="Password until now"
          type="password"
          autoComplete="current-password"
          required
          value={current}
          onValue={setCurrent}
          error={fault("current")}
        />
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          required
          value={password}
          onValue={setPassword}
          error={fault("password")}
        />
        <p className="text-quiet text-note col-span-full">
          Ten characters or more that nobody guesses: four words that do not belong together will do.
          Everywhere else you are signed out.
        </p>
        <div className="col-span-full">
          {!told && <Fault error={change.error} />}
          {change.isSuccess && (
            <p role="status" className="text-in font-semibold mb-2">
              The new password holds from now on.
            </p>
          )}
          <Button look="go" type="submit" disabled={change.isPending}>
            Change the password
          </Button>
        </div>
      </div>
    </form>
  );
}
