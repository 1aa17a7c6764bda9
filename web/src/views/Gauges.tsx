import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useContext, useState } from "react";
import { ApiError, client, unwrap } from "../model/client";
import type { Instrument } from "../model/types";
import { Bar } from "../parts/Bar";
import { Button } from "../parts/Button";
import { useSession } from "../parts/data";
import { Fault } from "../parts/Fault";
import { Field } from "../parts/Field";
import { useTitle } from "../parts/focus";
import { HelpContext } from "./help";

type Said = {
  id?: string;
  kind: string;
  name: string;
  resolution: string;
  mpe: string;
  repeatability: string;
  due: string;
  ended: boolean;
};

const nothing: Said = {
  kind: "",
  name: "",
  resolution: "",
  mpe: "",
  repeatability: "",
  due: "",
  ended: false,
};

const text = (q: { value: number; unit: string } | null | undefined) => (q ? `${q.value} ${q.unit}` : "");

const saidOf = (g: Instrument): Said => ({
  id: g.id,
  kind: g.kind,
  name: g.name,
  resolution: text(g.resolution),
  mpe: text(g.mpe),
  repeatability: text(g.repeatability),
  due: g.due ?? "",
  ended: g.ended ?? false,
});

/** What the shop reads with: its division, its permitted error, when its calibration is due. */
export function GaugesView() {
  useTitle("Gauges");
  const help = useContext(HelpContext);
  const leads = useSession().data?.person.role === "lead";
  const page = useQuery({ queryKey: ["gauges"], queryFn: () => unwrap(client.GET("/api/v1/gauges")) });
  const [at, setAt] = useState<string | undefined>();
  const kinds = page.data?.kinds ?? [];
  const missing = kinds.filter((k) => !page.data?.gauges.some((g) => g.kind === k && !g.ended));
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">Gauges</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1280px] mx-auto p-5 flex flex-col gap-5">
        <Fault error={page.error} />
        {missing.length > 0 && (
          <p role="status" className="bg-sheet border border-undecided border-l-6 px-4 py-3">
            <b className="font-semibold">Steps ask for a kind that nobody has entered:</b>{" "}
            {missing.join(", ")}. Until then readings of it stand without an error.
          </p>
        )}
        <section aria-labelledby="gauges" className="bg-sheet border border-ink">
          <h2 id="gauges" className="sr-only">
            Gauges
          </h2>
          <ul>
            {page.data?.gauges.map((g) => (
              <li key={g.id} className="border-b border-hair last:border-b-0">
                <div className="px-5 py-2 grid grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_minmax(0,1.4fr)_auto] max-[820px]:grid-cols-1 gap-x-5 items-center min-h-12">
                  <b className={`font-semibold text-line ${g.ended ? "line-through text-quiet" : ""}`}>
                    {g.name}
                  </b>
                  <span className="text-quiet">{g.kind}</span>
                  <span>
                    {g.ended ? (
                      <span className="text-quiet">read with no more</span>
                    ) : g.overdue ? (
                      <b className="font-semibold text-undecided">calibration overdue since {g.due}</b>
                    ) : (
                      <span className="text-quiet">
                        {g.due ? `calibration due ${g.due}` : "no calibration day"}
                      </span>
                    )}
                    <span className="block font-mono text-small">
                      {text(g.resolution)}
                      {g.mpe && `, ± ${text(g.mpe)}`}
                    </span>
                  </span>
                  {leads && (
                    <button
                      type="button"
                      className="min-h-11 px-2 text-quiet underline"
                      onClick={() => setAt(at === g.id ? undefined : g.id)}
                    >
                      Correct<span className="sr-only"> {g.name}</span>
                    </button>
                  )}
                </div>
                {at === g.id && <Form was={saidOf(g)} kinds={kinds} onDone={() => setAt(undefined)} />}
              </li>
            ))}
          </ul>
          {page.data?.gauges.length === 0 && (
            <p className="px-5 py-3 text-quiet">None has been entered yet.</p>
          )}
        </section>
        {leads && page.data && (
          <section aria-labelledby="new-gauge" className="bg-sheet border border-ink">
            <h2 id="new-gauge" className="text-head px-5 py-3 border-b border-hair">
              One more
            </h2>
            <Form was={{ ...nothing, kind: missing[0] ?? kinds[0] ?? "" }} kinds={kinds} />
          </section>
        )}
      </main>
    </div>
  );
}

function Form({ was, kinds, onDone }: { was: Said; kinds: readonly string[]; onDone?: () => void }) {
  const cache = useQueryClient();
  const [g, setG] = useState(was);
  const keep = useMutation({
    mutationFn: (ended: boolean) =>
      unwrap(
        client.POST("/api/v1/gauges", {
          body: {
            ...(g.id && { id: g.id }),
            kind: g.kind,
            name: g.name,
            resolution: g.resolution,
            ...(g.mpe && { mpe: g.mpe }),
            ...(g.repeatability && { repeatability: g.repeatability }),
            ...(g.due && { due: g.due }),
            ...(ended && { ended }),
          },
        }),
      ),
    onSuccess: (now) => {
      cache.setQueryData(["gauges"], now);
      setG(was);
      onDone?.();
    },
  });
  const fault = (f: string) => (keep.error instanceof ApiError ? keep.error.field(f) : undefined);
  const told = keep.error instanceof ApiError && (keep.error.problem.fields?.length ?? 0) > 0;
  const field = (
    name: "name" | "resolution" | "mpe" | "repeatability" | "due",
    label: string,
    more: object,
  ) => (
    <Field
      label={label}
      value={g[name]}
      onValue={(v) => setG({ ...g, [name]: v })}
      error={fault(name)}
      {...more}
    />
  );
  return (
    <form
      aria-label={was.name || "A new gauge"}
      className="p-5 grid grid-cols-3 max-[820px]:grid-cols-1 gap-3 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (!keep.isPending) keep.mutate(false);
      }}
    >
      {field("name", "Name, as it stands in the record", { placeholder: "Dial indicator no. 3" })}
      <label className="block">
        <span className="block text-small text-quiet">Kind</span>
        <select
          value={g.kind}
          onChange={(e) => setG({ ...g, kind: e.target.value })}
          className="w-full min-h-11 px-3 border border-ink bg-field text-line"
        >
          {[...new Set([...kinds, g.kind])].map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </select>
      </label>
      {field("due", "Calibration due", { type: "date" })}
      {field("resolution", "One division", { placeholder: "0.01 mm" })}
      {field("mpe", "Permitted error ±", { placeholder: "0.012 mm" })}
      {field("repeatability", "Spread when read again", { placeholder: "0.004 mm" })}
      <div className="col-span-full flex flex-wrap gap-2">
        <Button look="go" type="submit" hint="Enter" disabled={keep.isPending}>
          Keep
        </Button>
        {onDone && !was.ended && (
          <Button disabled={keep.isPending} onClick={() => keep.mutate(true)}>
            Read with no more
          </Button>
        )}
        {onDone && <Button onClick={onDone}>Leave it</Button>}
      </div>
      {!told && <Fault error={keep.error} />}
    </form>
  );
}
