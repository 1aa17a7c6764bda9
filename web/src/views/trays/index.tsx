import { Link, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { useTrays } from "../../data/rebuilds";
import { found, type TrayPart } from "../../model/trays";
import { Bar } from "../../parts/Bar";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useTitle } from "../../parts/focus";
import { has } from "../../model/json";

/** Where the parts of a rebuild lie: what a label's code opens, and where a part found loose belongs. */
export function TraysView() {
  const { id = "" } = useParams({ strict: false });
  const search = useSearch({ strict: false });
  const asked = has(search, "tray") ? String(search.tray) : "";
  const [typed, setTyped] = useState("");
  const { data, error } = useTrays(id);
  const rebuild = data?.rebuild;
  useTitle(rebuild ? `Trays of ${rebuild.number}` : "");
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">
          Trays{rebuild && <span className="font-mono font-medium pl-3">{rebuild.number}</span>}
        </h1>
        {rebuild && <span className="text-quiet">{rebuild.unit.name}</span>}
      </Bar>
      <main tabIndex={-1} className="max-w-[1280px] mx-auto p-5 flex flex-col gap-5">
        <Fault error={error} />
        <div className="flex flex-wrap gap-4 items-end">
          <Field
            label="Found a loose part? Type part of its name, mark or tray"
            value={typed}
            onValue={setTyped}
            className="grow basis-[320px]"
          />
          <Labels rebuild={id} />
        </div>
        {data && <Nothing any={data.trays.length > 0} found={found(data.trays, typed, asked).length > 0} />}
        <div className="grid grid-cols-3 max-[1000px]:grid-cols-2 max-[640px]:grid-cols-1 gap-5 items-start">
          {found(data?.trays ?? [], typed, asked).map((t) => (
            <section
              key={t.name}
              aria-label={t.name || "No tray recorded"}
              className={`bg-sheet border border-ink ${t.name === asked ? "border-l-6 border-l-blue" : ""}`}
            >
              <h2 className="text-title px-4 py-2 border-b border-ink">{t.name || "No tray recorded"}</h2>
              <ul>
                {t.parts.map((p) => (
                  <Part key={`${p.step} ${p.id}`} rebuild={id} part={p} />
                ))}
              </ul>
            </section>
          ))}
        </div>
      </main>
    </div>
  );
}

const Labels = ({ rebuild }: { rebuild: string }) => (
  <span className="flex flex-wrap gap-x-5">
    {["A4", "Letter", "roll"].map((paper) => (
      <a
        key={paper}
        href={`/api/v1/rebuilds/${rebuild}/trays.pdf?paper=${paper}`}
        download
        className="min-h-11 flex items-center"
      >
        Labels, {paper === "roll" ? "from a roll of 62 mm" : paper}
      </a>
    ))}
  </span>
);

function Nothing({ any, found: some }: { any: boolean; found: boolean }) {
  if (some) return null;
  return (
    <p role="status" className="bg-sheet border border-ink p-5">
      {any ? "No part here matches that." : "No parts taken off yet."}
    </p>
  );
}

function Part({ rebuild, part: p }: { rebuild: string; part: TrayPart }) {
  return (
    <li className="flex gap-3 items-center border-b border-hair last:border-b-0 px-4 py-2">
      {p.photo && (
        <img
          src={`/api/v1/photos/${p.photo}/preview`}
          alt={`${p.name}, as it came off`}
          loading="lazy"
          className="h-14 w-[74px] object-cover border border-hair"
        />
      )}
      <span className={`grow ${p.fitted ? "text-quiet" : ""}`}>
        <Link
          to="/rebuilds/$id/$step"
          params={{ id: rebuild, step: p.step }}
          className="text-line font-semibold min-h-11 min-w-11 inline-flex items-center"
        >
          {p.name}
        </Link>
        <span className="block text-quiet text-small">
          {[p.seen, p.title, p.fitted && "refitted"].filter(Boolean).join(", ")}
        </span>
      </span>
    </li>
  );
}
