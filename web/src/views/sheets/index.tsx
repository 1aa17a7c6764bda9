import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useContext, useState } from "react";
import { ApiError, client, unwrap } from "../../model/client";
import { Bar } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { useSession, useSheets } from "../../parts/data";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useTitle } from "../../parts/focus";
import { HelpContext } from "../help";

/** The families there is a spec sheet for; a new one begins empty or like another. */
export function SheetsView() {
  useTitle("Spec sheets");
  const help = useContext(HelpContext);
  const leads = useSession().data?.person.role === "lead";
  const [typed, setTyped] = useState("");
  const list = useSheets();
  const shown = list.data?.filter((s) => s.family.toLowerCase().includes(typed.trim().toLowerCase()));
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">Spec sheets</h1>
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1280px] mx-auto p-5 grid grid-cols-[minmax(0,1fr)_360px] max-[900px]:grid-cols-1 gap-5 items-start"
      >
        <section aria-labelledby="families">
          <h2 id="families" className="sr-only">
            Families
          </h2>
          <Field label="Family" value={typed} onValue={setTyped} className="mb-4" />
          <Fault error={list.error} />
          <ul className="bg-sheet border border-ink empty:hidden">
            {shown?.map((s) => (
              <li key={s.id} className="border-b border-hair last:border-b-0">
                <Link
                  to="/sheets/$id"
                  params={{ id: s.id }}
                  className="flex justify-between min-h-11 items-center px-4 text-ink no-underline hover:bg-tint/40"
                >
                  <span className="text-line font-semibold">{s.family}</span>
                  <span className="text-quiet">version {s.version}</span>
                </Link>
              </li>
            ))}
          </ul>
          {list.data?.length === 0 && (
            <p className="bg-sheet border border-ink p-5">
              No family has a sheet yet. Taking in a unit nobody knows begins one, and the bench fills it.
            </p>
          )}
        </section>
        {leads && <Begin families={list.data ?? []} />}
      </main>
    </div>
  );
}

function Begin({ families }: { families: { id: string; family: string }[] }) {
  const [family, setFamily] = useState("");
  const [like, setLike] = useState("");
  const cache = useQueryClient();
  const go = useNavigate();
  const begin = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/sheets", { body: { family, ...(like && { like }) } })),
    onSuccess: async (page) => {
      void cache.invalidateQueries({ queryKey: ["sheets"] });
      await go({ to: "/sheets/$id", params: { id: page.sheet.id } });
    },
  });
  const fault = begin.error instanceof ApiError ? begin.error.field("family") : undefined;
  return (
    <form
      className="bg-sheet border border-ink p-5 flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!begin.isPending) begin.mutate();
      }}
    >
      <h2 className="text-head">A new family</h2>
      <Field label="Its name" value={family} onValue={setFamily} error={fault} />
      <label className="block">
        <span className="block text-small text-quiet">Begin like</span>
        <select
          value={like}
          onChange={(e) => setLike(e.target.value)}
          className="w-full min-h-11 px-3 border border-ink bg-field text-line"
        >
          <option value="">an empty sheet</option>
          {families.map((f) => (
            <option key={f.id} value={f.id}>
              {f.family}
            </option>
          ))}
        </select>
      </label>
      {!fault && <Fault error={begin.error} />}
      <Button look="go" type="submit" hint="Enter" disabled={begin.isPending}>
        Begin the sheet
      </Button>
    </form>
  );
}
