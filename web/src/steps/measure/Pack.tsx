import { memo, useState } from "react";
import { packWords, type Packs, typedPack } from "../../model/pack";
import { readPlace } from "../../model/place";
import type { Trial } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import type { PropsOf } from "../props";
import { WhichDrawer } from "./WhichDrawer";

type Props = PropsOf<"measure"> & { packs: Packs; trial: Trial };

/** The pack: what is in there now, and which drawer the next one comes from. */
export const Pack = memo(function Pack(p: Props) {
  const { packs, trial, view } = p;
  const [asked, setAsked] = useState(false);
  if (view.status === "done" || view.status === "locked") return null;
  return (
    <div className="border border-ink mt-3.5 px-4 py-1 flex flex-wrap gap-x-6 items-center">
      {packs.asked && <InThere {...p} />}
      {packs.drawer === "" || asked ? (
        <WhichDrawer rebuild={p.rebuild} step={view.step.id} packs={packs} onDone={() => setAsked(false)} />
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
});

/** What is in there now: said as fitted, and put right when something else went in. */
function InThere({ view, packs, trial, say }: Props) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useKept(`in-there.${view.step.id}/${trial.number}`);
  const unit = packs.units[0] ?? "mm";
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
        Cancel
      </Button>
    </form>
  );
}
