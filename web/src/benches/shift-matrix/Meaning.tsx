import { useWords } from "../../data/calc";
import type { Face } from "../bench";

/** The pattern by its name, what speaks for it and against it, what the work has changed. */
export function Meaning({ out, step }: Face<"shift-matrix">) {
  const word = useWords();
  const feelText = (id: string | undefined) => (id ? word(`feel.${id}`) : "");
  if (!out) return null;
  const against = out.against[out.pattern] ?? [];
  const worst = out.worst;
  return (
    <>
      <div aria-live="polite">
        <p className="text-quiet text-small">{step?.preview ? "So far it looks like" : "It looks like"}</p>
        <p className="text-title font-semibold leading-tight">{word(`pattern.${out.pattern}`)}</p>
        <p className="mt-2">{out.says}.</p>
      </div>
      {against.length > 0 && (
        <div>
          <p className="text-quiet text-small">Does not fit</p>
          <ul className="text-note">
            {against.slice(0, 4).map((c) => (
              <li key={`${c.gear} ${c.state} ${c.temperature}`}>
                {c.gear}, {word(`state.${c.state}`)}: {feelText(c.feel)}
              </li>
            ))}
          </ul>
        </div>
      )}
      {worst && (
        <p className="text-note">
          <span className="text-quiet">Worst:</span> {worst.gear}, {word(`state.${worst.state}`)},{" "}
          {worst.temperature}: {feelText(worst.feel)}
        </p>
      )}
      {out.changed.length > 0 && (
        <table className="w-full text-note">
          <caption className="text-left text-quiet text-small">Before and after</caption>
          <tbody>
            {out.changed.map((c) => (
              <tr key={`${c.gear} ${c.state} ${c.temperature}`} className="border-b border-hair">
                <th scope="row" className="text-left font-normal py-0.5">
                  {c.gear}, {word(`state.${c.state}`)}
                </th>
                <td>
                  {feelText(c.from)}, now{" "}
                  <b className={c.better ? "text-in" : "text-out"}>{feelText(c.to)}</b>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
