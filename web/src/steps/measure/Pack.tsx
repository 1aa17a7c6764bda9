import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../model/client";
import { drawerNamed, packWords, type Packs, typedCount, typedPack } from "../../model/pack";
import { readPlace } from "../../model/place";
import type { Trial } from "../../model/types";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";

type Props = PropsOf<"measure"> & { packs: Packs; trial: Trial };

/** The pack: what is in there now, and which drawer the next one comes from. */
export function Pack(p: Props) {
  const { packs, trial, view } = p;
  const [asked, setAsked] = useState(false);
  if (view.status === "done" || view.status === "locked") return null;
  return (
    <div className="border border-ink mt-3.5 px-4 py-1 flex flex-wrap gap-x-6 items-center">
      <InThere {...p} />
      {packs.drawer === "" || asked ? (
        <WhichDrawer {...p} onDone={() => setAsked(false)} />
      ) : (
        <p className="text-small text-quiet flex flex-wrap items-center gap-x-3">
          Packs come from the drawer {packs.drawers.find((d) => d.id === packs.drawer)?.title}.
          {trial.readings.length === 0 && (
            <Button look="quiet" onClick={() => setAsked(true)}>
              Another drawer
            </Button>
          )}
        </p>
      )}
    </div>
  );
}

/** What is in there now: said as fitted, and put right when something else went in. */
function InThere({ view, packs, trial, say }: Props) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useKept(`in-there.${view.step.id}/${trial.number}`);
  const unit = view.units[0] ?? "mm";
  const pack = typedPack(typed, unit, packs.stock, trial.number === 1);
  const now = trial.pack.length > 0 ? packWords(trial.pack) : "no shim";
  const fitted = view.entries.find(
    (e) => e.act === "fit" && !e.superseded_by && readPlace(e.item).trial === trial.number,
  );
  const fresh = trial.readings.length + trial.asked.length === 0;
  useKey("inThere", "say what is in there", () => setOpen(true), fresh);
  if (!open && typed === "")
    return (
      <p className="flex flex-wrap items-center gap-x-3 text-note">
        <span>
          <span className="text-quiet">In there now:</span> <b className="font-semibold">{now}</b>
        </span>
        {fresh && (
          <Button look="quiet" hint="E" name="in-there" onClick={() => setOpen(true)}>
            {trial.number === 1 ? "There is one" : "It is another"}
          </Button>
        )}
      </p>
    );
  return (
    <form
      className="flex flex-wrap gap-2 items-end grow basis-full py-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (!pack) return;
        setOpen(false);
        say({ act: "fit", pack, ...(fitted && { supersedes: fitted.id }) }, () => setTyped(""));
      }}
    >
      <Field
        label="In there now, a size or several: 0.54 + 0.30"
        value={typed}
        onValue={setTyped}
        numeric
        unit={unit}
        autoFocus={open}
        className="grow basis-[220px]"
      />
      <Button type="submit" look="go" hint="Enter" disabled={!pack}>
        That is in there
      </Button>
      <Button
        look="quiet"
        onClick={() => {
          setTyped("");
          setOpen(false);
        }}
      >
        Leave it
      </Button>
    </form>
  );
}

/** Which drawer of the shop, asked once for the family; its sizes may be said here. */
function WhichDrawer({ rebuild, view, packs, onDone }: Props & { onDone: () => void }) {
  const cache = useQueryClient();
  const [title, setTitle] = useKept(`drawer.${view.step.id}`);
  const [sizes, setSizes] = useKept(`drawer.sizes.${view.step.id}`);
  const { lines, typed } = typedCount(sizes);
  const path = { id: rebuild, step: view.step.id };
  const take = useMutation({
    mutationFn: (drawer: string) =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/steps/{step}/drawer", { params: { path }, body: { drawer } }),
      ),
    onSuccess: () => {
      onDone();
      void cache.invalidateQueries({ queryKey: ["rebuild", rebuild] });
    },
  });
  const begin = useMutation({
    mutationFn: async () => {
      const id = drawerNamed(title, packs.drawers);
      const body = { title: title.trim(), lines, why: "counted" };
      await unwrap(client.POST("/api/v1/drawers/{id}", { params: { path: { id } }, body }));
      return id;
    },
    onSuccess: (id) => {
      setTitle("");
      setSizes("");
      take.mutate(id);
    },
  });
  return (
    <details open={packs.drawers.length > 0} className="grow basis-full">
      <summary className="min-h-11 flex items-center cursor-pointer text-note font-semibold">
        Which drawer do the shims for this family come from?
      </summary>
      <div className="flex flex-wrap gap-2">
        {packs.drawers.map((d) => (
          <Button key={d.id} look="quiet" onClick={() => take.mutate(d.id)}>
            {d.title}
          </Button>
        ))}
      </div>
      <form
        className="grid grid-cols-2 max-[600px]:grid-cols-1 gap-3 mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (!begin.isPending) begin.mutate();
        }}
      >
        <Field label="Another drawer, by its name" value={title} onValue={setTitle} />
        <div>
          <label htmlFor="sizes" className="block text-small text-quiet">
            What is in it, a size and how many a line: 0.54 mm 3
          </label>
          <textarea
            id="sizes"
            rows={3}
            value={sizes}
            onChange={(e) => setSizes(e.target.value)}
            className="w-full border border-ink bg-field px-3 py-2 font-mono"
          />
        </div>
        <p className="text-quiet text-note">
          {title.trim() === ""
            ? "Give it a name."
            : typed === lines.length && typed > 0
              ? "It is kept for every rebuild of this family."
              : "A size and how many, a line each."}
        </p>
        <Button type="submit" disabled={title.trim() === "" || lines.length === 0 || lines.length < typed}>
          Keep this drawer
        </Button>
      </form>
      <Fault error={begin.error ?? take.error} />
    </details>
  );
}
