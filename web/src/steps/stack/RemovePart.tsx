import { useState } from "react";
import { said } from "../../model/json";
import type { StackPart } from "../../model/types";
import { behindBy, facingOf, facingPaths } from "../../parts/drawn/shafts";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKeptField } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { TakePhoto } from "../../parts/TakePhoto";
import type { PartProps } from "./acts";
import { Once } from "./Once";

/** A part comes off: the way it faced, where it is laid, its picture; what else is seen of it unfolds. */
export function RemovePart(p: PartProps) {
  const { rebuild, view, part, correcting } = p;
  const hand = useRemoving(p);
  const { fields, off } = hand;
  const [more, setMore] = useState(
    Boolean(part.measure) || (correcting && Boolean(part.mark || part.damage)),
  );
  const move = (by: -1 | 1) => {
    const behind = behindBy(view.stack, part.id, by);
    if (behind) off("removed", behind);
  };
  useKey("missing", "part missing", () => off("not-found"));
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
        {correcting ? "Correct" : "Next part off"}: {part.name}
        <Once part={part} />
      </h3>
      <div className="flex flex-wrap gap-3 items-end mt-2">
        <Field label="Faces" {...fields.faces} className="grow basis-[170px]" />
        <Ways
          now={facingOf({ ...part, seen: fields.faces.value })}
          onWay={(way) => fields.faces.onValue(`faces ${way}`)}
        />
        <Field label="Tray" {...fields.tray} className="w-24" hotkey="tray" />
        <TakePhoto
          rebuild={rebuild}
          label={hand.photo ? "Picture taken" : "Picture"}
          onTaken={hand.setPhoto}
        />
        <Button type="submit" look="go" hint="Enter" name="removed" value="removed" data-hand>
          {correcting ? "Save correction" : "Off, in its tray"}
        </Button>
        <Button hint="V" name="removed" value="not-found" onClick={() => off("not-found")}>
          Missing
        </Button>
        <Button name="removed" value="none" onClick={() => off("none")}>
          This one has none
        </Button>
        {!more && (
          <Button look="quiet" onClick={() => setMore(true)}>
            Add mark, size, damage
          </Button>
        )}
        {correcting && part.removed === "removed" && <Moved onMove={move} />}
      </div>
      {more && <SeenToo fields={fields} measure={part.measure} />}
    </form>
  );
}

const Moved = ({ onMove }: { onMove: (by: -1 | 1) => void }) => (
  <>
    <Button look="quiet" name="behind" value="-1" onClick={() => onMove(-1)}>
      Move earlier
    </Button>
    <Button look="quiet" name="behind" value="1" onClick={() => onMove(1)}>
      Move later
    </Button>
  </>
);

type Hand = ReturnType<typeof useRemoving>;

/** What is being said of the part as it comes off: as the book has it, or as it was said before. */
function useRemoving({ view, part, say, correcting }: PartProps) {
  const place = (what: string) => `${view.step.id}.${what}/${part.id}`;
  const was: Partial<StackPart> = correcting ? part : {};
  const fields = {
    faces: useKeptField(place("faces"), part.seen ?? part.faces),
    tray: useKeptField(place("part"), was.tray),
    mark: useKeptField(place("mark"), was.mark),
    value: useKeptField(place("value"), was.measured),
    bolts: useKeptField(place("bolts"), part.bolts),
    damage: useKeptField(place("damage"), was.damage),
  };
  const [photo, setPhoto] = useState("");
  const laid = (behind: string | undefined) =>
    said({
      faces: fields.faces.value,
      tray: fields.tray.value,
      mark: fields.mark.value,
      value: fields.value.value,
      bolts: fields.bolts.value,
      damage: fields.damage.value,
      photo: photo || was.photo,
      behind: behind ?? was.behind,
      ...(correcting && part.extra && { name: part.name, shaft: part.shaft }),
    });
  const off = (outcome: "removed" | "not-found" | "none", behind?: string) =>
    say(
      {
        act: "removed",
        item: part.id,
        outcome,
        ...(outcome === "removed" ? laid(behind) : said({ photo })),
      },
      () => {
        for (const f of Object.values(fields)) f.onValue("");
        fields.faces.onValue(part.faces ?? "");
      },
    );
  return { fields, photo, setPhoto, off };
}

/** What else is seen of it. */
const SeenToo = ({ fields, measure }: { fields: Hand["fields"]; measure: string | undefined }) => (
  <div className="flex flex-wrap gap-3 items-end mt-2">
    <Field label="Mark or tag" {...fields.mark} className="grow basis-[130px]" />
    <Field
      label={measure ? `Measured: ${measure}` : "Measurement on removal"}
      placeholder="1.52 mm"
      {...fields.value}
      className="grow basis-[150px]"
    />
    <Field
      label="Held by (bolts)"
      placeholder="six, one long"
      {...fields.bolts}
      className="grow basis-[130px]"
    />
    <Field label="Damage" {...fields.damage} className="grow basis-[170px]" />
  </div>
);

const touched = ["front", "rear", "up", "down", "in", "out"];

/** The way the part faced, by one touch. */
function Ways({ now, onWay }: { now: string | undefined; onWay: (way: string) => void }) {
  return (
    <div role="group" aria-label="It faces" className="flex flex-wrap border border-ink">
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
