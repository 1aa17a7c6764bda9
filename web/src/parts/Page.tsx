import type { ReactNode } from "react";
import { Bar } from "./Bar";
import { useTitle } from "./focus";

type Props = {
  title: string;
  /** What the page is called in the browser, where that is more than its title. */
  called?: string;
  /** What stands beside the title. */
  beside?: ReactNode;
  className?: string;
  children: ReactNode;
};

/** A page of the program: the line at its top, and what it is about. */
export function Page({ title, called = title, beside, className = "", children }: Props) {
  useTitle(called);
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{title}</h1>
        {beside}
      </Bar>
      <main tabIndex={-1} className={`max-w-[1280px] mx-auto p-5 ${className}`}>
        {children}
      </main>
    </div>
  );
}

type SectionProps = { title: string; hidden?: boolean; children: ReactNode };

/** A part of a page in its frame, under its own heading. */
export const Section = ({ title, hidden = false, children }: SectionProps) => (
  <section aria-label={title} className="bg-sheet border border-ink">
    <h2 className={hidden ? "sr-only" : "text-head px-5 py-3 border-b border-hair"}>{title}</h2>
    {children}
  </section>
);
