import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import { moment } from "../model/moment";
import type { ProgramAdded } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";

/** Other programs that work here by a token: an accounting, a screen on the wall. */
export function Programs() {
  const cache = useQueryClient();
  const list = useQuery({
    queryKey: ["programs"],
    queryFn: async () => (await unwrap(client.GET("/api/v1/programs"))).programs,
  });
  const again = () => void cache.invalidateQueries({ queryKey: ["programs"] });
  const end = useMutation({
    mutationFn: (login: string) =>
      unwrap(client.POST("/api/v1/programs/{login}/end", { params: { path: { login } } })),
    onSuccess: again,
  });
  return (
    <section className="bg-sheet border border-ink" aria-labelledby="programs">
      <h2 id="programs" className="text-head px-5 py-3 border-b border-hair">
        Other programs
      </h2>
      <Fault error={list.error ?? end.error} />
      <ul>
        {list.data?.map((p) => (
          <li
            key={p.person.login}
            className="px-5 py-2.5 border-b border-hair flex flex-wrap items-center gap-x-5 gap-y-1"
          >
            <p className="grow">
              <b className="font-semibold">{p.person.name}</b>{" "}
              <span className="text-quiet">
                {p.board ? "reads the board" : p.person.role === "reader" ? "reads" : "reads and writes"}
                {p.used && `, last on ${moment(p.used)}`}
                {p.ended && `, ended ${moment(p.ended)}`}
              </span>
            </p>
            {!p.ended && (
              <Button disabled={end.isPending} onClick={() => end.mutate(p.person.login)}>
                End<span className="sr-only"> the token of {p.person.name}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Add onAdded={again} />
    </section>
  );
}

function Add({ onAdded }: { onAdded: () => void }) {
  const [name, setName] = useState("");
  const [does, setDoes] = useState("reads");
  const add = useMutation({
    mutationFn: (): Promise<ProgramAdded> =>
      unwrap(
        client.POST("/api/v1/programs", {
          body: { name, writes: does === "writes", board: does === "board" },
        }),
      ),
    onSuccess: () => {
      setName("");
      onAdded();
    },
  });
  const fault = add.error instanceof ApiError ? add.error.field("name") : undefined;
  return (
    <form
      className="p-5 flex flex-wrap gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (!add.isPending) add.mutate();
      }}
    >
      <Field
        label="Name of the program"
        value={name}
        onValue={setName}
        error={fault}
        className="grow basis-[220px]"
      />
      <Answers
        label="What it may do"
        answers={[
          { id: "board", text: "Read the board" },
          { id: "reads", text: "Read" },
          { id: "writes", text: "Read and write" },
        ]}
        chosen={does}
        keyed={false}
        marks
        onPick={setDoes}
      />
      <Button type="submit" disabled={add.isPending}>
        Give it a token
      </Button>
      {!fault && <Fault error={add.error} />}
      {add.data && (
        <p role="status" className="basis-full">
          The token of {add.data.person.name}, shown this once:{" "}
          <code className="font-mono bg-field border border-hair px-2 py-1 break-all">{add.data.token}</code>
        </p>
      )}
    </form>
  );
}
