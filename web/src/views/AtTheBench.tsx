import { useNavigate } from "@tanstack/react-router";
import { useEndTablet, useEnrol, useTablets } from "../data/people";
import { usePIN } from "../data/session";
import { moment } from "../model/moment";
import { Button } from "../parts/Button";
import { Form, useForm } from "../parts/Form";
import { Listed, Row } from "../parts/Listed";
import { Section } from "../parts/Page";

/** One's own PIN, good at the bench's tablets only. */
export function NewPIN() {
  const change = usePIN();
  const { said, line, clear } = useForm({ pin: "", password: "" }, change);
  return (
    <Section title="PIN for the bench">
      <Form
        label="PIN for the bench"
        write={change}
        value={said}
        onTaken={clear}
        className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4"
        go={said.pin ? "Save PIN" : "Remove PIN"}
        beside={
          change.isSuccess && (
            <p role="status" className="text-in">
              Done.
            </p>
          )
        }
      >
        {line("pin", "PIN, four to eight digits (leave empty to remove it)", {
          inputMode: "numeric",
          type: "password",
          autoComplete: "off",
        })}
        {line("password", "Your password", { type: "password", autoComplete: "current-password" })}
      </Form>
    </Section>
  );
}

/** The tablets at the bench, for leads: this screen can become one. */
export function Tablets() {
  const go = useNavigate();
  const list = useTablets();
  const enrol = useEnrol(() => void go({ to: "/" })); // whoever comes begins at the board
  const end = useEndTablet();
  const { said, line } = useForm({ name: "" }, enrol);
  return (
    <Listed
      title="Tablets at the bench"
      list={list.data}
      error={list.error ?? end.error}
      keyOf={(t) => t.id}
      row={(t) => (
        <Row title={t.name} says={`since ${moment(t.since)}${t.ended ? `, ended ${moment(t.ended)}` : ""}`}>
          {!t.ended && (
            <Button disabled={end.isPending} onClick={() => end.mutate(t.id)}>
              Remove<span className="sr-only"> {t.name}</span>
            </Button>
          )}
        </Row>
      )}
    >
      <Form
        label="A new tablet"
        write={enrol}
        value={said.name}
        className="p-5 flex flex-wrap gap-3 items-end"
        go="Make bench tablet"
      >
        {line("name", "Name for this bench tablet", {
          className: "grow basis-[260px]",
        })}
        <p className="basis-full text-quiet text-note">
          It is then shared: you are signed out, and each person picks their name and types a PIN.
        </p>
      </Form>
    </Listed>
  );
}
