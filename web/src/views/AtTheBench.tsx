import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { moment } from "../model/moment";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { signedOut } from "../parts/data";
import { Field } from "../parts/Field";

/** One's own PIN, good at the bench's tablets only. */
export function NewPIN() {
  const [pin, setPin] = useState("");
  const [password, setPassword] = useState("");
  const change = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/session/pin", { body: { pin, password } })),
    onSuccess: () => {
      setPin("");
      setPassword("");
    },
  });
  const fault = (name: string) => (change.error instanceof ApiError ? change.error.field(name) : undefined);
  const told = fault("pin") ?? fault("password");
  return (
    <form
      className="bg-sheet border border-ink"
      aria-labelledby="pin"
      onSubmit={(e) => {
        e.preventDefault();
        if (!change.isPending) change.mutate();
      }}
    >
      <h2 id="pin" className="text-head px-5 py-3 border-b border-hair">
        PIN for the bench
      </h2>
      <div className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4">
        <Field
          label="PIN: four to eight figures; empty takes it away"
          value={pin}
          onValue={setPin}
          inputMode="numeric"
          type="password"
          autoComplete="off"
          error={fault("pin")}
        />
        <Field
          label="Your password"
          type="password"
          autoComplete="current-password"
          value={password}
          onValue={setPassword}
          error={fault("password")}
        />
        <div className="col-span-full flex items-center gap-4">
          <Button type="submit" disabled={change.isPending}>
            {pin ? "Keep the PIN" : "Take the PIN away"}
          </Button>
          {change.isSuccess && (
            <p role="status" className="text-in">
              Done.
            </p>
          )}
          {!told && <Fault error={change.error} />}
        </div>
      </div>
    </form>
  );
}

/** The tablets at the bench, for leads: this screen can become one. */
export function Tablets() {
  const cache = useQueryClient();
  const go = useNavigate();
  const [name, setName] = useState("");
  const list = useQuery({
    queryKey: ["tablets"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/tablets"))).tablets,
  });
  const again = () => void cache.invalidateQueries({ queryKey: ["tablets"] });
  const enrol = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/tablets", { body: { name } })),
    onSuccess: () => {
      setName("");
      signedOut(cache); // the server has ended the session: the screen is nobody's now
      void go({ to: "/" }); // whoever comes begins at the board, not at a lead's account page
    },
  });
  const end = useMutation({
    mutationFn: (id: string) => unwrap(client.POST("/api/v1/tablets/{id}/end", { params: { path: { id } } })),
    onSuccess: again,
  });
  const fault = enrol.error instanceof ApiError ? enrol.error.field("name") : undefined;
  return (
    <section className="bg-sheet border border-ink" aria-labelledby="tablets">
      <h2 id="tablets" className="text-head px-5 py-3 border-b border-hair">
        Tablets at the bench
      </h2>
      <Fault error={list.error ?? end.error} />
      <ul>
        {list.data?.map((t) => (
          <li
            key={t.id}
            className="px-5 py-2.5 border-b border-hair flex flex-wrap items-center gap-x-5 gap-y-1"
          >
            <p className="grow">
              <b className="font-semibold">{t.name}</b>{" "}
              <span className="text-quiet">
                since {moment(t.since)}
                {t.ended && `, ended ${moment(t.ended)}`}
              </span>
            </p>
            {!t.ended && (
              <Button disabled={end.isPending} onClick={() => end.mutate(t.id)}>
                End<span className="sr-only"> {t.name}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="p-5 flex flex-wrap gap-3 items-end"
        onSubmit={(e) => {
          e.preventDefault();
          if (!enrol.isPending) enrol.mutate();
        }}
      >
        <Field
          label="This screen as a tablet of the bench, by what name"
          value={name}
          onValue={setName}
          error={fault}
          className="grow basis-[260px]"
        />
        <Button type="submit" disabled={enrol.isPending}>
          Enrol this screen
        </Button>
        {!fault && <Fault error={enrol.error} />}
        <p className="basis-full text-quiet text-note">
          It then belongs to nobody, you are signed out, and whoever stands there says a name and a PIN.
        </p>
      </form>
    </section>
  );
}
