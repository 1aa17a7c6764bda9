import type { ReactNode } from "react";

type Props = {
  label: string;
  block?: readonly (readonly [string, string])[] | undefined;
  side?: ReactNode;
  /** The drawing takes the whole width; what stands at its side stands below. */
  wide?: boolean;
  children: ReactNode;
};

const beside =
  "basis-[232px] grow-0 max-[900px]:grow border-l max-[900px]:border-l-0 max-[900px]:border-t flex-col justify-between";

/** A drawing in its frame, with the title block at the lower right. */
export function Frame({ label, block, side, wide, children }: Props) {
  return (
    <figure className="border border-ink mt-3.5 flex flex-wrap" aria-label={label}>
      <div
        className={`grow min-w-0 overflow-x-auto p-2 ${wide ? "basis-full" : "basis-[320px]"}`}
        tabIndex={0}
        role="group"
        aria-label={`${label}, drawing`}
      >
        {children}
      </div>
      {(side || block) && (
        <div className={`border-ink flex ${wide ? "basis-full flex-wrap border-t items-stretch" : beside}`}>
          <div className={wide ? "grow" : ""}>{side}</div>
          {block && (
            <dl className={`border-ink text-tiny ${wide ? "border-l min-w-[200px]" : "border-t"}`}>
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
