import { useState } from "react";
import { behindBy, facingOf, facingPaths } from "../../model/shafts";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { TakePhoto } from "../../parts/TakePhoto";
import type { PartProps } from "./acts";
import { Once } from "./Once";

/** A part comes off: the way it faced, where it is laid, its picture; what else is seen of it unfolds. */
export function RemovePart({ rebuild, view, part, say, correcting }: PartProps) {
  const place = (what: string) => `${view.step.id}.${what}/${part.id}`;
  const was = (text: string | undefined) => (correcting ? (text ?? "") : "");
  const [faces, setFaces] = useKept(place("faces"), part.seen ?? part.faces ?? "");
  const [tray, setTray] = useKept(place("part"), was(part.tray));
  const [mark, setMark] = useKept(place("mark"), was(part.mark));
  const [value, setValue] = useKept(place("value"), was(part.measured));
  const [bolts, setBolts] = useKept(place("bolts"), part.bolts ?? "");
  const [damage, setDamage] = useKept(place("damage"), was(part.damage));
  const [photo, setPhoto] = useState("");
  const [more, setMore] = useState(Boolean(part.measure) || was(part.mark) !== "" || was(part.damage) !== "");
  const clear = () => {
    setTray("");
    setFaces(part.faces ?? "");
    for (const set of [setMark, setValue, setBolts, setDamage]) set("");
  };
  const laid = (behind?: string) => ({
    ...(faces && { faces }),
    ...(tray && { tray }),
    ...(mark && { mark }),
    ...(value && { value }),
    ...(bolts && { bolts }),
    ...(damage && { damage }),
    ...((photo || was(part.photo)) && { photo: photo || was(part.photo) }),
    ...(part.extra && correcting && { name: part.name, ...(part.shaft && { shaft: part.shaft }) }),
    ...((behind ?? was(part.behind)) && { behind: behind ?? was(part.behind) }),
  });
  const off = (outcome: "removed" | "not-found" | "none", behind?: string) =>
    say(
      {
        act: "removed",
        item: part.id,
        outcome,
        ...(outcome === "removed" ? laid(behind) : photo && { photo }),
      },
      clear,
    );
  const move = (by: -1 | 1) => {
    const behind = behindBy(view.stack, part.id, by);
    if (behind) off("removed", behind);
  };
  useKey("missing", "the part is not there", () => off("not-found"));
  return (
    <form
      data-part={part.id}
      className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue"
      onSubmit={(e) => {
        e.preventDefault();
        off("removed");
      }}
    >
      <h3 className="text-head">
        {correcting ? "Correct" : "Now off"}: {part.name}
        <Once part={part} />
      </h3>
      <div className="flex flex-wrap gap-3 items-end mt-2">
        <Field label="Faces" value={faces} onValue={setFaces} className="grow basis-[170px]" />
        <Ways now={facingOf({ ...part, seen: faces })} onWay={(way) => setFaces(`faces ${way}`)} />
        <Field label="Tray" value={tray} onValue={setTray} className="w-24" hotkey="tray" />
        <TakePhoto rebuild={rebuild} label={photo ? "Picture taken" : "Picture"} onTaken={setPhoto} />
        <Button type="submit" look="go" hint="Enter" name="removed" value="removed" data-hand>
          {correcting ? "So it was" : "Off and laid down"}
        </Button>
        <Button hint="V" name="removed" value="not-found" onClick={() => off("not-found")}>
          Missing: it must be there
        </Button>
        <Button name="removed" value="none" onClick={() => off("none")}>
          This one has none
        </Button>
        {!more && (
          <Button look="quiet" onClick={() => setMore(true)}>
            Mark, measure, damage
          </Button>
        )}
        {correcting && part.removed === "removed" && (
          <>
            <Button look="quiet" name="behind" value="-1" onClick={() => move(-1)}>
              A place sooner
            </Button>
            <Button look="quiet" name="behind" value="1" onClick={() => move(1)}>
              A place later
            </Button>
          </>
        )}
      </div>
      {more && (
        <div className="flex flex-wrap gap-3 items-end mt-2">
          <Field label="Mark or tag" value={mark} onValue={setMark} className="grow basis-[130px]" />
          <Field
            label={part.measure ? `Measured: ${part.measure}` : "Measured as it comes out"}
            placeholder="1.52 mm"
            value={value}
            onValue={setValue}
            className="grow basis-[150px]"
          />
          <Field
            label="Held by"
            placeholder="six, one long"
            value={bolts}
            onValue={setBolts}
            className="grow basis-[130px]"
          />
          <Field label="Damage" value={damage} onValue={setDamage} className="grow basis-[170px]" />
        </div>
      )}
    </form>
  );
}

const touched = ["front", "rear", "up", "down", "in", "out"];

/** The way the part faced, by one touch. */
function Ways({ now, onWay }: { now: string | undefined; onWay: (way: string) => void }) {
  return (
    <div role="group" aria-label="It faced" className="flex flex-wrap border border-ink">
      {touched.map((way) => (
        <button
          key={way}
          type="button"
          aria-label={way}
          title={way}
          aria-pressed={way === now}
          data-look="quiet"
          className={`w-11 min-h-11 grid place-items-center border-l border-hair first:border-l-0 ${way === now ? "bg-tint text-blue" : "bg-sheet"}`}
          onClick={() => onWay(way)}
        >
          <svg width="26" height="22" viewBox="-13 -11 26 22" aria-hidden="true">
            <path d={facingPaths[way]} fill="none" stroke="currentColor" strokeWidth="1.8" />
          </svg>
        </button>
      ))}
    </div>
  );
}
