type Props = { out: { method: string; source: readonly string[] }; help?: HelpText };

/** What one wants to know beside the metal: what to hold where, what goes wrong, why the figure is so. */
export type HelpText = { hold: string; wrong: string; why: string };

/** A method as one reads it: pinion-depth/1 is pinion depth, version 1. */
const inWords = (method: string) => method.replaceAll("-", " ").replace("/", ", version ");

/** The calculator with its version, what its answer rests on, and how to come by good figures. */
export const Method = ({ out, help }: Props) => (
  <div className="text-quiet text-small">
    {help && (
      <details>
        <summary className="min-h-11 flex items-center cursor-pointer underline underline-offset-3 text-blue">
          How to measure it
        </summary>
        <dl className="pb-2 text-note">
          {(
            [
              ["Hold", help.hold],
              ["Goes wrong", help.wrong],
              ["Why", help.why],
            ] as const
          ).map(([name, text]) => (
            <div key={name} className="pb-1.5">
              <dt className="font-semibold inline">{name}: </dt>
              <dd className="inline">{text}</dd>
            </div>
          ))}
        </dl>
      </details>
    )}
    <p>
      {inWords(out.method)}: {out.source.join("; ")}
    </p>
  </div>
);
