import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { Button } from "../parts/Button";
import { enter } from "../parts/data";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useTitle } from "../parts/focus";
import { asShop, newShop, ShopFields } from "./shop/ShopFields";

/** An empty workshop: what it says of itself, and its first lead. The code came with the address. */
export default function FirstRun() {
  useTitle("A new workshop");
  const cache = useQueryClient();
  const [code, setCode] = useState(() => new URLSearchParams(location.search).get("code") ?? "");
  const [shop, setShop] = useState(newShop);
  const [login, setLogin] = useState("");
  const [lead, setLead] = useState("");
  const [password, setPassword] = useState("");
  const begin = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/v1/first", {
          body: {
            code,
            shop: asShop(shop),
            lead: { login, name: lead, password },
          },
        }),
      ),
    onSuccess: (session) => {
      enter(session, cache);
      history.replaceState(null, "", "/"); // the code was good once
      cache.setQueryData(["session"], session);
      void cache.invalidateQueries();
    },
  });
  /** What the server says of a field, at that field. */
  const fields = begin.error instanceof ApiError ? (begin.error.problem.fields ?? []) : [];
  const errorAt = (path: string) => {
    const fault = fields.find((f) => f.path === path);
    return fault && `${fault.problem}. Accepted: ${fault.accepted}.`;
  };
  return (
    <main tabIndex={-1} className="min-h-screen grid place-items-center p-4">
      <form
        className="bg-sheet border border-ink w-[760px] max-w-full"
        onSubmit={(e) => {
          e.preventDefault();
          begin.mutate();
        }}
      >
        <div className="border-b border-ink px-6 py-5 flex items-center gap-4">
          <img src="/mark.svg" alt="" width="40" height="40" className="border border-hair" />
          <div>
            <h1 className="text-title leading-none">A new workshop</h1>
            <p className="text-quiet">Nobody works here yet. You are its first lead.</p>
          </div>
        </div>
        <Part title="The workshop">
          <ShopFields shop={shop} onShop={setShop} errorAt={(f) => errorAt(`shop.${f}`)} autoFocus />
        </Part>
        <Part title="You">
          <Field
            label="Your name, as the record shall say it"
            error={errorAt("lead.name")}
            value={lead}
            onValue={setLead}
            required
          />
          <Field
            label="To sign in, a short name in small letters"
            error={errorAt("lead.login")}
            value={login}
            onValue={setLogin}
            autoComplete="username"
            autoCapitalize="none"
            required
          />
          <Field
            label="Password: four words that do not belong together"
            error={errorAt("lead.password")}
            type="password"
            value={password}
            onValue={setPassword}
            autoComplete="new-password"
            required
          />
          <Field
            label="Code that the program printed"
            error={errorAt("code")}
            value={code}
            onValue={setCode}
            autoComplete="off"
            required
          />
        </Part>
        <div className="px-6 pb-6 flex flex-col gap-4">
          {fields.length === 0 && <Fault error={begin.error} />}
          <Button look="go" type="submit" name="begin" hint="Enter" disabled={begin.isPending}>
            Open the workshop
          </Button>
        </div>
      </form>
    </main>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="px-6 py-4" aria-label={title}>
      <h2 className="text-head mb-2">{title}</h2>
      <div className="grid sm:grid-cols-2 gap-4 items-end">{children}</div>
    </section>
  );
}
