import type { ReactNode } from "react";

type Props = { of: readonly (readonly [name: string, says: ReactNode])[]; large?: boolean };

/** Names with what is known of each, a line each; what is not known stays away. */
export const Facts = ({ of, large = false }: Props) => (
  <dl className={`mt-2 border-t border-ink ${large ? "text-body" : "text-note"}`}>
    {of.map(
      ([name, says]) =>
        says && (
          <div key={name} className="flex justify-between gap-3 border-b border-hair py-1">
            <dt className="text-quiet">{name}</dt>
            <dd className={`font-mono text-right ${large ? "font-medium" : ""}`}>{says}</dd>
          </div>
        ),
    )}
  </dl>
);
