import { useState } from "react";
import { useAddProgram, useEndProgram, usePrograms } from "../data/people";
import { moment } from "../model/moment";
import type { Program } from "../model/types";
import { Answers } from "../parts/Answers";
import { Button } from "../parts/Button";
import { Form, useForm } from "../parts/Form";
import { Listed, Row } from "../parts/Listed";

const may = [
  { id: "board", text: "Read the board" },
  { id: "reads", text: "Read" },
  { id: "writes", text: "Read and write" },
];

/** Other programs that work here by a token: an accounting, a screen on the wall. */
export function Programs() {
  const list = usePrograms();
  const end = useEndProgram();
  return (
    <Listed
      title="Connected programs"
      list={list.data}
      error={list.error ?? end.error}
      keyOf={(p) => p.person.login}
      row={(p) => (
        <Row title={p.person.name} says={says(p)}>
          {!p.ended && (
            <Button disabled={end.isPending} onClick={() => end.mutate(p.person.login)}>
              Revoke<span className="sr-only"> the token of {p.person.name}</span>
            </Button>
          )}
        </Row>
      )}
    >
      <Add />
    </Listed>
  );
}

function says(p: Program): string {
  const does = p.board ? "reads the board" : p.person.role === "reader" ? "reads" : "reads and writes";
  return `${does}${p.used ? `, last on ${moment(p.used)}` : ""}${p.ended ? `, ended ${moment(p.ended)}` : ""}`;
}

function Add() {
  const add = useAddProgram();
  const [does, setDoes] = useState("reads");
  const { said, line, clear } = useForm({ name: "" }, add);
  return (
    <Form
      label="A new program"
      write={add}
      value={{ ...said, writes: does === "writes", board: does === "board" }}
      onTaken={clear}
      className="p-5 flex flex-wrap gap-3 items-end"
      go="Create token"
    >
      {line("name", "Program name", { className: "grow basis-[220px]" })}
      <Answers label="Access" answers={may} chosen={does} keyed={false} marks onPick={setDoes} />
      {add.data && (
        <p role="status" className="basis-full">
          Token for {add.data.person.name} (shown only once):{" "}
          <code className="font-mono bg-field border border-hair px-2 py-1 break-all">{add.data.token}</code>
        </p>
      )}
    </Form>
  );
}
