import { Link } from "@tanstack/react-router";
import { traysOf } from "../../model/trays";
import type { StackPart } from "../../model/types";

type Props = { rebuild: string; parts: readonly StackPart[]; current: string | undefined };

/** The trays as boxes under the row: which parts lie in each, with a picture of it. */
export function TrayBoxes({ rebuild, parts, current }: Props) {
  const trays = traysOf(parts);
  if (trays.length === 0) return null;
  return (
    <ul aria-label="Trays" className="flex flex-wrap border border-t-0 border-ink bg-paper/60">
      {trays.map((t) => (
        <li
          key={t.name}
          className={`border-r border-hair p-2 min-w-[112px] ${t.parts.some((p) => p.part.id === current) ? "bg-tint" : ""}`}
        >
          <Link
            to="/trays/$id"
            params={{ id: rebuild }}
            search={{ tray: t.name }}
            className="text-small min-h-11 flex items-center"
          >
            {t.name}
          </Link>
          <span className="font-mono text-small">{t.parts.map((p) => p.n).join(" ")}</span>
          {t.photo && (
            <img
              src={`/api/v1/photos/${t.photo}/preview`}
              alt={`What lies in ${t.name}`}
              loading="lazy"
              className="h-14 mt-1 border border-hair"
            />
          )}
        </li>
      ))}
    </ul>
  );
}
