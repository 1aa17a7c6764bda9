import { usePassword, useSession } from "../../data/session";
import { Form, useForm } from "../../parts/Form";
import { Page, Section } from "../../parts/Page";
import { NewPIN, Tablets } from "../AtTheBench";
import { People } from "../people/index";
import { Programs } from "../Programs";
import { Sessions } from "./Sessions";

/** One's own account: where one is signed in, and one's password. */
export function AccountView() {
  const person = useSession().data?.person;
  return (
    <Page title={person?.name ?? ""} called="Account">
      <div className="max-w-[980px] mx-auto grid gap-5">
        <p className="text-quiet text-line">
          {person?.role}, signs in as <span className="font-mono">{person?.login}</span>
        </p>
        <Sessions />
        <NewPassword />
        <NewPIN />
        {person?.role === "lead" && (
          <>
            <People />
            <Tablets />
            <Programs />
          </>
        )}
      </div>
    </Page>
  );
}

function NewPassword() {
  const change = usePassword();
  const { said, line, clear } = useForm({ current: "", password: "" }, change);
  return (
    <Section title="New password">
      <Form
        label="New password"
        write={change}
        value={said}
        onTaken={clear}
        className="p-5 grid grid-cols-2 max-[700px]:grid-cols-1 gap-4"
        go="Change password"
        beside={
          change.isSuccess && (
            <p role="status" className="text-in font-semibold">
              Password changed.
            </p>
          )
        }
      >
        {line("current", "Current password", {
          type: "password",
          autoComplete: "current-password",
          required: true,
        })}
        {line("password", "New password", { type: "password", autoComplete: "new-password", required: true })}
        <p className="text-quiet text-note col-span-full">
          At least ten characters, hard to guess. Four unrelated words work well. You will be signed out
          everywhere else.
        </p>
      </Form>
    </Section>
  );
}
