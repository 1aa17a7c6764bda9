import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useLeads } from "../../data/session";
import { useBeginSheet, useSheets } from "../../data/sheets";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Form, useForm } from "../../parts/Form";
import { Page } from "../../parts/Page";
import { Picked } from "../../parts/Picked";

/** The families there is a spec sheet for; a new one begins empty or like another. */
export function SheetsView() {
  const leads = useLeads();
  const [typed, setTyped] = useState("");
  const list = useSheets();
  const shown = list.data?.filter((s) => s.family.toLowerCase().includes(typed.trim().toLowerCase()));
  return (
    <Page
      title="Spec sheets"
      className="grid grid-cols-[minmax(0,1fr)_360px] max-[900px]:grid-cols-1 gap-5 items-start"
    >
      <section aria-label="Families">
        <Field label="Family" value={typed} onValue={setTyped} className="mb-4" />
        <Fault error={list.error} />
        <ul className="bg-sheet border border-ink empty:hidden">
          {shown?.map((s) => (
            <li key={s.id} className="border-b border-hair last:border-b-0">
              <Link
                to="/sheets/$id"
                params={{ id: s.id }}
                className="flex justify-between min-h-11 items-center px-4 text-ink no-underline hover:bg-tint/40"
              >
                <span className="text-line font-semibold">{s.family}</span>
                <span className="text-quiet">version {s.version}</span>
              </Link>
            </li>
          ))}
        </ul>
        {list.data?.length === 0 && (
          <p className="bg-sheet border border-ink p-5">
            No spec sheets yet. Take in a unit of a new family: its sheet starts empty and fills as you work.
          </p>
        )}
      </section>
      {leads && <Begin families={list.data ?? []} />}
    </Page>
  );
}

function Begin({ families }: { families: { id: string; family: string }[] }) {
  const go = useNavigate();
  const begin = useBeginSheet((id) => void go({ to: "/sheets/$id", params: { id } }));
  const { said, put, line } = useForm({ family: "", like: "" }, begin);
  return (
    <Form
      label="A new family"
      write={begin}
      value={said}
      className="bg-sheet border border-ink p-5 flex flex-col gap-3"
      go="Create sheet"
    >
      <h2 className="text-head">A new family</h2>
      {line("family", "Family name")}
      <Picked
        label="Copy from"
        value={said.like}
        onValue={(v) => put("like", v)}
        of={[{ id: "", text: "an empty sheet" }, ...families.map((f) => ({ id: f.id, text: f.family }))]}
      />
    </Form>
  );
}
