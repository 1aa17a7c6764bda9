import type { ReactNode } from "react";

/** A drawing in its frame, with the title block at the lower right. */
export function Frame({
  label,
  block,
  side,
  children,
}: {
  label: string;
  block?: [string, string][];
  side?: ReactNode;
  children: ReactNode;
}) {
  return (
    <figure className="border border-ink mt-3.5 flex flex-wrap" aria-label={label}>
      <div
        className="grow basis-[320px] min-w-0 overflow-x-auto p-2"
        tabIndex={0}
        role="group"
        aria-label={`${label}, drawing`}
      >
        {children}
      </div>
      {(side || block) && (
        <div className="basis-[232px] grow-0 max-[900px]:grow border-l max-[900px]:border-l-0 max-[900px]:border-t border-ink flex flex-col justify-between">
          <div>{side}</div>
          {block && (
            <dl className="border-t border-ink text-tiny">
              {block.map(([k, v]) => (
                <div
                  key={k}
                  className="flex justify-between gap-3 px-2 py-0.5 border-b border-hair last:border-b-0"
                >
                  <dt className="text-quiet">{k}</dt>
                  <dd className="text-right">{v}</dd>
                </div>
              ))}
            </dl>
          )}
        </div>
      )}
    </figure>
  );
}
