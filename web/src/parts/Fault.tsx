import { useEffect, useState } from "react";
import { ApiError } from "../model/problem";

type Props = {
  error: Error | null | undefined;
  /** While somebody types: what is not finished yet is no fault, and is not called out at every key. */
  typing?: boolean;
  /** For the field it belongs to, which names it in aria-describedby. */
  id?: string;
  /** What the screen calls the field at a path. */
  named?: (path: string) => string;
};

const spaced = (path: string) => path.replaceAll("_", " ");

/** An error in the trade's words, where it happened. */
export function Fault({ error, typing = false, id, named = spaced }: Props) {
  const rested = useRested(error, typing ? 700 : 0);
  if (!error || !rested) return null;
  const fields = error instanceof ApiError ? (error.problem.fields ?? []) : [];
  return (
    <div role="alert" id={id} className="border-l-4 border-out pl-3 py-1 my-2 text-note">
      {fields.length === 0 && <p className="text-out font-semibold">{error.message}</p>}
      {fields.map((f) => (
        <p key={f.path} className="text-out">
          {f.path && !["value", "outcome", "act"].includes(f.path) && (
            <span className="font-semibold">{named(f.path)}: </span>
          )}
          {f.problem}
          {f.accepted && <span className="text-quiet"> Type: {f.accepted}.</span>}
        </p>
      ))}
      {error instanceof ApiError && error.status >= 500 && error.problem.request_id && (
        <p className="text-quiet text-tiny">Report number {error.problem.request_id}</p>
      )}
    </div>
  );
}

/** What an input carries whose fault stands in the Fault with this id. */
export const faulty = (error: Error | null | undefined, id: string) =>
  error ? ({ "aria-invalid": true, "aria-describedby": id } as const) : {};

/** True when a value has stood for a while. */
function useRested(value: unknown, ms: number) {
  const [stood, setStood] = useState<unknown>();
  useEffect(() => {
    if (ms === 0) return;
    const timer = setTimeout(() => setStood(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return ms === 0 || stood === value;
}
