import { More } from "./More";
import { moment } from "../model/moment";
import type { Change } from "../model/types";

type Props = { history: readonly Change[]; none: string; more: boolean | undefined };

/** How something came to say what it says: who, when, why, what changed. */
export function Versions({ history, none, more }: Props) {
  return (
    <section aria-labelledby="versions" className="bg-sheet border border-ink">
      <h2 id="versions" className="text-head px-5 py-2.5 border-b border-ink">
        Versions
      </h2>
      {history.length === 0 && <p className="px-5 py-3 text-quiet">{none}</p>}
      <ol>
        {history.map((v) => (
          <li key={v.version} className="px-5 py-2.5 border-b border-hair last:border-b-0">
            <p>
              <b className="font-semibold">{v.version}</b>, {v.by.name}, {moment(v.at)}: {v.why}
            </p>
            <ul className="text-quiet text-small">
              {v.changes.map((c) => (
                <li key={c}>{c}</li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      <More more={more} look="These are the latest." />
    </section>
  );
}
