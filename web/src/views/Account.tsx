import { useEndSession, usePassword, useSession, useSessions } from "../data/session";
import { moment } from "../model/moment";
import type { OpenSession } from "../model/types";
import { Button } from "../parts/Button";
import { Form, useForm } from "../parts/Form";
import { Listed, Row } from "../parts/Listed";
import { More } from "../parts/More";
import { Page, Section } from "../parts/Page";
import { NewPIN, Tablets } from "./AtTheBench";
import { People } from "./People";
import { Programs } from "./Programs";

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

function Sessions() {
  const list = useSessions();
  const end = useEndSession();
  return (
    <Listed
      title="Signed in at"
      list={list.data?.sessions}
      error={list.error ?? end.error}
      keyOf={(s) => s.id}
      row={(s) => (
        <Row
          title={s.this ? "This browser" : browserName(s)}
          says={`from ${s.address}, since ${moment(s.started)}, last used ${moment(s.used)}`}
        >
          {!s.this && (
            <Button onClick={() => end.mutate(s.id)} disabled={end.isPending}>
              Sign out there
            </Button>
          )}
        </Row>
      )}
    >
      <More more={list.data?.more} look="End some of these." />
    </Listed>
  );
}

/** What a browser calls itself, short; the kind of machine is what tells them apart. */
function browserName(s: OpenSession) {
  const machine = /\(([^;)]+)/.exec(s.browser)?.[1];
  return machine
    ? `A browser on ${machine}`
    : s.browser.slice(0, 60) || "A program that does not say its name";
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
        go="Change the password"
        beside={
          change.isSuccess && (
            <p role="status" className="text-in font-semibold">
              The new password holds from now on.
            </p>
          )
        }
      >
        {line("current", "Password until now", {
          type: "password",
          autoComplete: "current-password",
          required: true,
        })}
        {line("password", "New password", { type: "password", autoComplete: "new-password", required: true })}
        <p className="text-quiet text-note col-span-full">
          Ten characters or more that nobody guesses: four words that do not belong together will do.
          Everywhere else you are signed out.
        </p>
      </Form>
    </Section>
  );
}
