import { ApiError } from "../model/client";

/** An error in the trade's words, where it happened. */
export function Fault({ error }: { error: Error | null | undefined }) {
  if (!error) return null;
  const fields = error instanceof ApiError ? (error.problem.fields ?? []) : [];
  return (
    <div role="alert" className="border-l-4 border-out pl-3 py-1 my-2 text-[15.5px]">
      {fields.length === 0 && <p className="text-out font-semibold">{error.message}</p>}
      {fields.map((f) => (
        <p key={f.path} className="text-out">
          {f.path && !["value", "outcome", "act"].includes(f.path) && <span className="font-semibold">{f.path.replaceAll("_", " ")}: </span>}
          {f.problem}
          {f.accepted && <span className="text-quiet"> Accepted: {f.accepted}.</span>}
        </p>
      ))}
      {error instanceof ApiError && error.status >= 500 && error.problem.request_id && (
        <p className="text-quiet text-[13px]">number {error.problem.request_id}</p>
      )}
    </div>
  );
}
