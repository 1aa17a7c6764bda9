import { useTakeDrawer } from "../../data/rebuilds";
import { useBeginDrawer } from "../../data/shop";
import { drawerNamed, type Packs, typedCount } from "../../model/pack";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";

type Props = { rebuild: string; step: string; packs: Packs; onDone: () => void };

/** Which drawer of the shop, asked once for the family; its sizes may be said here. */
export function WhichDrawer({ rebuild, step, packs, onDone }: Props) {
  const [title, setTitle] = useKept(`drawer.${step}`);
  const [sizes, setSizes] = useKept(`drawer.sizes.${step}`);
  const { lines, typed } = typedCount(sizes);
  const take = useTakeDrawer(rebuild, step);
  const begin = useBeginDrawer();
  const takes = (drawer: string) => take.mutate(drawer, { onSuccess: onDone });
  const whole = title.trim() !== "" && lines.length > 0 && lines.length === typed;
  const keep = () =>
    begin.mutate(
      { id: drawerNamed(title, packs.drawers), title: title.trim(), lines },
      {
        onSuccess: (id) => {
          setTitle("");
          setSizes("");
          takes(id);
        },
      },
    );
  return (
    <details open={packs.drawers.length > 0} className="grow basis-full">
      <summary className="min-h-11 flex items-center cursor-pointer text-note font-semibold">
        Which drawer do the shims for this family come from?
      </summary>
      <div className="flex flex-wrap gap-2">
        {packs.drawers.map((d) => (
          <Button key={d.id} look="quiet" onClick={() => takes(d.id)}>
            {d.title}
          </Button>
        ))}
      </div>
      <form
        className="grid grid-cols-2 max-[600px]:grid-cols-1 gap-3 mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (whole && !begin.isPending) keep();
        }}
      >
        <Field label="Another drawer, by its name" value={title} onValue={setTitle} />
        <Sizes value={sizes} onValue={setSizes} />
        <p className="text-quiet text-note">{wanted(title, typed > 0 && typed === lines.length)}</p>
        <Button type="submit" disabled={!whole}>
          Save this drawer
        </Button>
      </form>
      <Fault error={begin.error ?? take.error} />
    </details>
  );
}

function wanted(title: string, counted: boolean): string {
  if (title.trim() === "") return "Give it a name.";
  return counted ? "It is kept for every rebuild of this family." : "A size and how many, a line each.";
}

const Sizes = ({ value, onValue }: { value: string; onValue: (v: string) => void }) => (
  <div>
    <label htmlFor="sizes" className="block text-small text-quiet">
      What is in it, a size and how many a line: 0.54 mm 3
    </label>
    <textarea
      id="sizes"
      rows={3}
      value={value}
      onChange={(e) => onValue(e.target.value)}
      className="w-full border border-ink bg-field px-3 py-2 font-mono"
    />
  </div>
);
