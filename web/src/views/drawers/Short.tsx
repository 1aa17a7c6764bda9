import type { DrawerPage } from "../../model/types";

/** What there are too few of, over all drawers. */
export function Short({ drawers }: { drawers: readonly DrawerPage[] }) {
  const short = drawers.flatMap((d) =>
    d.items
      .filter((i) => i.count < i.least)
      .map((i) => `${i.least - i.count} of ${i.size} ${i.name || d.title}`),
  );
  if (short.length === 0) return null;
  return (
    <p role="status" className="bg-sheet border border-undecided border-l-6 px-4 py-3 text-line">
      <b className="font-semibold">Running low:</b> {short.join(", ")}.
    </p>
  );
}
