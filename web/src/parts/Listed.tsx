import type { ReactNode } from "react";
import { Fault } from "./Fault";
import { Section } from "./Page";

type Props<T> = {
  title: string;
  hidden?: boolean;
  /** What is listed, and what went wrong with reading or changing it. */
  list: readonly T[] | undefined;
  error: Error | null | undefined;
  keyOf: (x: T) => string;
  row: (x: T) => ReactNode;
  /** What is said where there is nothing. */
  none?: string;
  /** The form that adds one, or whatever else stands below. */
  children?: ReactNode;
};

/** A list of the shop's things, a line each, with the form that adds one. */
export function Listed<T>({ title, hidden = false, list, error, keyOf, row, none, children }: Props<T>) {
  return (
    <Section title={title} hidden={hidden}>
      <Fault error={error} />
      <ul>
        {list?.map((x) => (
          <li key={keyOf(x)} className="border-b border-hair last:border-b-0">
            {row(x)}
          </li>
        ))}
      </ul>
      {list?.length === 0 && none && <p className="px-5 py-3 text-quiet">{none}</p>}
      {children}
    </Section>
  );
}

/** One line of a list: what it is, what there is to say of it, and what can be done with it. */
export const Row = ({
  title,
  says,
  children,
}: {
  title: ReactNode;
  says: ReactNode;
  children?: ReactNode;
}) => (
  <div className="px-5 py-2 flex flex-wrap items-center gap-x-5 gap-y-1 min-h-12">
    <div className="grow basis-[240px]">
      <p className="font-semibold">{title}</p>
      <p className="text-quiet text-small">{says}</p>
    </div>
    {children}
  </div>
);
