import { type ReactNode, useState } from "react";
import { useBegin } from "../data/session";
import { Form, useForm } from "../parts/Form";
import { useTitle } from "../parts/focus";
import { asShop, newShop, ShopFields } from "./shop/ShopFields";

/** An empty workshop: what it says of itself, and its first lead. The code came with the address. */
export default function FirstRun() {
  useTitle("A new workshop");
  const begin = useBegin();
  const [shop, setShop] = useState(newShop);
  const { said, line, errorAt } = useForm(
    {
      code: new URLSearchParams(location.search).get("code") ?? "",
      "lead.login": "",
      "lead.name": "",
      "lead.password": "",
    },
    begin,
  );
  const lead = { login: said["lead.login"], name: said["lead.name"], password: said["lead.password"] };
  return (
    <main tabIndex={-1} className="min-h-screen grid place-items-center p-4">
      <div className="bg-sheet border border-ink w-[760px] max-w-full">
        <div className="border-b border-ink px-6 py-5 flex items-center gap-4">
          <img src="/mark.svg" alt="" width="40" height="40" className="border border-hair" />
          <div>
            <h1 className="text-title leading-none">A new workshop</h1>
            <p className="text-quiet">No accounts yet. You will be the first lead.</p>
          </div>
        </div>
        <Form
          label="A new workshop"
          write={begin}
          value={{ code: said.code, shop: asShop(shop), lead }}
          className="px-6 pb-6"
          go="Start the workshop"
        >
          <Part title="The workshop">
            <ShopFields shop={shop} onShop={setShop} errorAt={(f) => errorAt(`shop.${f}`)} autoFocus />
          </Part>
          <Part title="You">
            {line("lead.name", "Your name, as it appears in the record", { required: true })}
            {line("lead.login", "Sign-in name, short, lower case", {
              autoComplete: "username",
              autoCapitalize: "none",
              required: true,
            })}
            {line("lead.password", "Password (four unrelated words work well)", {
              type: "password",
              autoComplete: "new-password",
              required: true,
            })}
            {line("code", "Code printed by the program", { required: true })}
          </Part>
        </Form>
      </div>
    </main>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="py-4" aria-label={title}>
      <h2 className="text-head mb-2">{title}</h2>
      <div className="grid sm:grid-cols-2 gap-4 items-end">{children}</div>
    </section>
  );
}
