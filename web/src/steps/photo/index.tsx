import { liveAt } from "../../model/types";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { useKept } from "../../parts/kept";
import { TakePhoto } from "../../parts/TakePhoto";
import type { PropsOf } from "../props";

/** A picture, or why there is none. */
export default function PhotoStep({ rebuild, view, say }: PropsOf<"photo">) {
  const taken = liveAt(view.entries, "photo");
  const [reason, setReason] = useKept(`nophoto.${view.step.id}`);
  const photo = taken?.body.photo;
  if (taken) {
    return (
      <div className="border border-ink mt-3.5 p-4">
        {photo ? (
          <img
            src={`/api/v1/photos/${photo}`}
            alt={view.step.title}
            className="max-h-[420px] border border-hair"
          />
        ) : (
          <p>No picture: {taken.body.reason}</p>
        )}
      </div>
    );
  }
  return (
    <div className="border border-ink mt-3.5 p-4 flex flex-col gap-4">
      <TakePhoto
        rebuild={rebuild}
        label="Take or choose a picture"
        hand
        onTaken={(id) => say({ act: "photo", photo: id })}
      />
      <form
        className="flex gap-2 items-end flex-wrap"
        onSubmit={(e) => {
          e.preventDefault();
          say({ act: "photo", reason }, () => setReason(""));
        }}
      >
        <Field label="No picture because" value={reason} onValue={setReason} className="grow" />
        <Button type="submit" name="photo" disabled={reason.trim() === ""}>
          Skip the picture
        </Button>
      </form>
    </div>
  );
}
