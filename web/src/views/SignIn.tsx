import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../model/client";
import { enter } from "../parts/data";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useTitle } from "../parts/focus";

/** By name and password; somebody who was here a moment ago has his name there already. */
export function SignIn({ known = "" }: { known?: string }) {
  useTitle("Sign in");
  const [login, setLogin] = useState(known);
  const [password, setPassword] = useState("");
  const cache = useQueryClient();
  const signIn = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/session", { body: { login, password } })),
    onSuccess: (session) => {
      enter(session, cache);
      cache.setQueryData(["session"], session);
      void cache.invalidateQueries();
    },
  });
  return (
    <main tabIndex={-1} className="min-h-screen grid place-items-center p-4">
      <form
        className="bg-sheet border border-ink w-[420px] max-w-full"
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate();
        }}
      >
        <div className="border-b border-ink px-6 py-5 flex items-center gap-4">
          <img src="/mark.svg" alt="" width="40" height="40" className="border border-hair" />
          <div>
            <h1 className="text-title leading-none">Handwerk</h1>
            <p className="text-quiet">The record of this workshop</p>
          </div>
        </div>
        <div className="p-6 flex flex-col gap-4">
          <Field
            label="Your name here"
            value={login}
            onValue={setLogin}
            autoFocus={known === ""}
            autoComplete="username"
            name="login"
            required
          />
          <Field
            label="Password"
            type="password"
            value={password}
            onValue={setPassword}
            autoFocus={known !== ""}
            autoComplete="current-password"
            name="password"
            required
          />
          <Fault error={signIn.error} />
          <Button look="go" type="submit" hint="Enter" disabled={signIn.isPending}>
            Sign in
          </Button>
        </div>
      </form>
    </main>
  );
}
