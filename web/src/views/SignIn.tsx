import { useSignIn } from "../data/session";
import { Form, useForm } from "../parts/Form";
import { useTitle } from "../parts/focus";

/** By name and password; somebody who was here a moment ago has his name there already. */
export function SignIn({ known = "" }: { known?: string }) {
  useTitle("Sign in");
  const signIn = useSignIn();
  const { said, line } = useForm({ login: known, password: "" }, signIn);
  return (
    <main tabIndex={-1} className="min-h-screen grid place-items-center p-4">
      <div className="bg-sheet border border-ink w-[420px] max-w-full">
        <div className="border-b border-ink px-6 py-5 flex items-center gap-4">
          <img src="/mark.svg" alt="" width="40" height="40" className="border border-hair" />
          <div>
            <h1 className="text-title leading-none">Handwerk</h1>
            <p className="text-quiet">Workshop record</p>
          </div>
        </div>
        <Form label="Sign in" write={signIn} value={said} className="p-6 flex flex-col gap-4" go="Sign in">
          {line("login", "Sign-in name", {
            autoFocus: known === "",
            autoComplete: "username",
            name: "login",
            required: true,
          })}
          {line("password", "Password", {
            type: "password",
            autoFocus: known !== "",
            autoComplete: "current-password",
            name: "password",
            required: true,
          })}
        </Form>
      </div>
    </main>
  );
}
