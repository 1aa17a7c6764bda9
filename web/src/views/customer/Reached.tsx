import { useState } from "react";
import { useErase, useReach } from "../../data/fleet";
import { useSession } from "../../data/session";
import type { CustomerPage } from "../../model/types";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Form, useForm } from "../../parts/Form";

export function Reached({ page: c }: { page: CustomerPage }) {
  const role = useSession().data?.person.role;
  const save = useReach(c.id);
  const start = { name: c.name, phone: c.phone ?? "", mail: c.mail ?? "", address: c.address ?? "" };
  const { said, line } = useForm(start, save);
  const changed = JSON.stringify(said) !== JSON.stringify(start);
  return (
    <aside className="flex flex-col gap-5">
      <Form
        label="Contact details"
        write={save}
        value={changed && role !== "reader" ? said : undefined}
        className="bg-sheet border border-ink p-5 flex flex-col gap-3"
        {...(role !== "reader" && { go: "Save" })}
      >
        <h2 className="text-head">Contact details</h2>
        <fieldset disabled={role === "reader"} className="contents">
          {line("name", "Name")}
          {line("phone", "Telephone")}
          {line("mail", "Email")}
          {line("address", "Address")}
        </fieldset>
      </Form>
      <section aria-label="Customer's data" className="bg-sheet border border-ink p-5 flex flex-col gap-3">
        <p>
          <a
            href={`/api/v1/customers/${c.id}`}
            download={`customer-${c.id}.json`}
            className="min-h-11 flex items-center"
          >
            Download customer data (JSON)
          </a>
          <span className="text-quiet text-small">
            Everything we hold about this customer, with vehicles and rebuilds.
          </span>
        </p>
        {role === "lead" && <Erase id={c.id} />}
      </section>
    </aside>
  );
}

/** Forgets a person on request; asked twice, since nobody can take it back. */
function Erase({ id }: { id: string }) {
  const [sure, setSure] = useState(false);
  const erase = useErase(id);
  const put = () => erase.mutate(undefined, { onError: () => setSure(false) });
  return (
    <div>
      <Button disabled={erase.isPending} onClick={() => (sure ? put() : setSure(true))}>
        {sure ? "Erase for good" : "Erase customer"}
      </Button>
      {sure && (
        <p role="status" className="text-out mt-1">
          Erases name, telephone, email, address and registrations. This cannot be undone. The records of
          their units stay, without the name.
        </p>
      )}
      <Fault error={erase.error} />
    </div>
  );
}
