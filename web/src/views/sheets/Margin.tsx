import { useState } from "react";
import { useSayByFile } from "../../data/sheets";
import type { SheetPage } from "../../model/types";
import { useSession } from "../../data/session";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { FileButton } from "../../parts/FileButton";
import { Versions } from "../../parts/Versions";

export function Margin({ page }: { page: SheetPage }) {
  const leads = useSession().data?.person.role === "lead";
  const id = page.sheet.id;
  return (
    <aside className="flex flex-col gap-5">
      <Versions
        history={page.history}
        more={page.more}
        none={page.of === "vehicle" ? "Nothing is saved yet." : "As in the book; not changed here."}
      />
      <section aria-label="Files" className="bg-sheet border border-ink px-5 py-3">
        <p className="flex flex-wrap gap-x-5">
          <a href={`/api/v1/sheets/${id}/sheet.csv`} download className="min-h-11 min-w-11 flex items-center">
            Download CSV
          </a>
          <a
            href={`/api/v1/sheets/${id}/sheet.json`}
            download
            className="min-h-11 min-w-11 flex items-center"
          >
            Download JSON
          </a>
        </p>
        {leads && <BringIn page={page} />}
      </section>
      <p className="text-quiet text-note">
        {page.of === "vehicle" ? (
          <>
            What you save here applies to every unit of this vehicle from its next rebuild, whatever its
            family's sheet says.
          </>
        ) : (
          <>
            A rebuild keeps the sheet it started with. If a figure is missing, the step asks for it; a lead
            can save it here with K.
          </>
        )}
      </p>
    </aside>
  );
}

/** Lays a file's lines over the sheet, all of them or none. */
function BringIn({ page }: { page: SheetPage }) {
  const [why, setWhy] = useState("");
  const bring = useSayByFile(page);
  return (
    <div className="flex flex-col gap-2 border-t border-hair pt-2">
      <Field label="Reason or source" value={why} onValue={setWhy} />
      <FileButton
        label="CSV or JSON file for this sheet"
        accept=".csv,.json,.txt"
        disabled={bring.isPending}
        onFile={(file) => bring.mutate({ file, why })}
      >
        Import CSV or JSON
      </FileButton>
      <Fault error={bring.error} />
      {bring.data && (
        <p role="status" className="text-in">
          Imported as version {bring.data.sheet.version}.
        </p>
      )}
    </div>
  );
}
