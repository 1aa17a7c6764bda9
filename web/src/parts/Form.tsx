import { type ComponentProps, type ReactNode, useState } from "react";
import { ApiError } from "../model/problem";
import { Button } from "./Button";
import { Fault } from "./Fault";
import { Field } from "./Field";

/** What a form needs of a write: see useWrite. */
type Write<In> = {
  mutate: (said: In, then?: { onSuccess?: () => void }) => void;
  isPending: boolean;
  error: Error | null;
};

type More = Omit<ComponentProps<typeof Field>, "label" | "value" | "onValue" | "error">;

/** A few lines being typed, and the write that takes them: what is wrong with a line stands at it. */
export function useForm<F extends Record<string, string>>(start: F, write: Pick<Write<never>, "error">) {
  const [said, setSaid] = useState(start);
  const errorAt = (path: string) => (write.error instanceof ApiError ? write.error.field(path) : undefined);
  const put = (name: keyof F & string, value: string) => setSaid((was) => ({ ...was, [name]: value }));
  const line = (name: keyof F & string, label: string, more: More = {}) => (
    <Field
      label={label}
      value={said[name] ?? ""}
      onValue={(value) => put(name, value)}
      error={errorAt(name)}
      {...more}
    />
  );
  return { said, put, line, errorAt, clear: () => setSaid(start) };
}

type Props<In> = {
  label: string;
  write: Write<In>;
  /** What is sent; undefined while something is missing. */
  value: In | undefined;
  onTaken?: () => void;
  className?: string;
  children: ReactNode;
  /** The words of its button; a form may bring buttons of its own instead. */
  go?: string;
  /** Beside the button. */
  beside?: ReactNode;
};

/** A form with its write: Enter takes it once, a fault no line shows stands at its foot. */
export function Form<In>({ label, write, value, onTaken, className, children, go, beside }: Props<In>) {
  const told = write.error instanceof ApiError && (write.error.problem.fields?.length ?? 0) > 0;
  return (
    <form
      aria-label={label}
      className={className}
      onSubmit={(e) => {
        e.preventDefault();
        if (!write.isPending && value !== undefined)
          write.mutate(value, onTaken ? { onSuccess: onTaken } : {});
      }}
    >
      {children}
      {(go || beside) && (
        <div className="col-span-full flex flex-wrap items-center gap-3">
          {go && (
            <Button look="go" type="submit" hint="Enter" disabled={write.isPending || value === undefined}>
              {go}
            </Button>
          )}
          {beside}
        </div>
      )}
      {!told && <Fault error={write.error} />}
    </form>
  );
}
