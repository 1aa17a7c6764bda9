import { useParams } from "@tanstack/react-router";
import { useSpecSheet } from "../../data/sheets";
import { Bar } from "../../parts/Bar";
import { Fault } from "../../parts/Fault";
import { useTitle } from "../../parts/focus";
import { Lines } from "./Lines";
import { Margin } from "./Margin";

/** A family's spec sheet: what it says, corrected in place, and how it came to say so. */
export function SheetView() {
  const { id = "" } = useParams({ strict: false });
  const page = useSpecSheet(id);
  const s = page.data?.sheet;
  useTitle(s ? `Spec sheet ${s.family}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{s?.family ?? "Spec sheet"}</h1>
        {s && (
          <span className="text-quiet">
            {page.data?.of === "vehicle" ? "figures of this vehicle" : "spec sheet"}, version {s.version}
          </span>
        )}
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1440px] mx-auto p-5 grid grid-cols-[minmax(0,1fr)_360px] max-[1000px]:grid-cols-1 gap-5 items-start"
      >
        <Fault error={page.error} />
        {page.data && <Lines page={page.data} />}
        {page.data && <Margin page={page.data} />}
      </main>
    </div>
  );
}
