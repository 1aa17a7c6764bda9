import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { begun } from "../model/words";
import { liveAt, may } from "../model/types";
import { Button } from "../parts/Button";
import { useSession } from "../data/session";
import { Field } from "../parts/Field";
import { useKept } from "../parts/kept";
import { useKey } from "../parts/keys";
import { Words } from "../parts/Words";
import { FoundForm } from "./FoundForm";
import type { StepProps } from "./props";

// On a phone the way on stays in sight: the margin lies below the whole sheet there.
const inSight =
  "max-[600px]:fixed max-[600px]:bottom-0 max-[600px]:inset-x-0 max-[600px]:z-10 " +
  "max-[600px]:bg-paper max-[600px]:px-4 max-[600px]:py-2.5 max-[600px]:border-t!";

type Props = StepProps & {
  next: string | undefined;
  nextTitle: string | undefined;
  onGo: (s: string | undefined) => void;
};

/** Cautions that stay in sight, why, and the way on. */
export function Foot(p: Props) {
  const { rebuild, view, say } = p;
  return (
    <>
      {view.status === "done" ? <WayOn {...p} /> : <Needed view={view} />}
      <InSight view={view} />
      {may(view, "skip") && <LeaveAway view={view} say={say} />}
      {may(view, "note") && <Remark step={view.step.id} say={say} />}
      {may(view, "time") && <TimeHere view={view} say={say} />}
      <CostsLink rebuild={rebuild} />
      {may(view, "found") && <Find rebuild={rebuild} step={view.step.id} say={say} />}
      {view.status === "done" && <div className="h-14 min-[601px]:hidden" />}
    </>
  );
}

/** The step is done: on to the next that is open. */
function WayOn({ view, next, nextTitle, onGo }: Props) {
  useKey("goOn", "go on to the next open step", () => onGo(next), next !== undefined);
  return (
    <div className={`border-t border-ink pt-3 peer-empty:border-t-0 peer-empty:pt-0 ${inSight}`}>
      <p className="font-semibold text-head max-[600px]:sr-only">
        {liveAt(view.entries, "skip") ? "This step is left away." : "This step is done."}
      </p>
      {next && (
        <Button
          look="go"
          hint="G"
          name="next"
          value={next}
          className="w-full mt-2.5 max-[600px]:mt-0"
          onClick={() => onGo(next)}
        >
          Next step: {nextTitle}
        </Button>
      )}
    </div>
  );
}

const whyNot: Record<string, string> = { held: "On hold: ", locked: "Locked. " };

/** What the step waits for. */
const Needed = ({ view }: Pick<Props, "view">) =>
  view.needs && (
    <p className="border-t border-ink pt-3 text-body peer-empty:border-t-0 peer-empty:pt-0">
      <span className="text-quiet">{whyNot[view.status] ?? "Still to do: "}</span>
      {view.status === "locked" ? begun(view.needs) : view.needs}
    </p>
  );

/** Cautions that stay in sight, what is needed to hand, and why the step is there. */
function InSight({ view }: Pick<Props, "view">) {
  const standing = view.step.hazards ? [] : view.cautions.filter((c) => !c.grave || c.by);
  return (
    <>
      {standing.map((c) => (
        <div key={c.id} className="border-l-4 border-undecided pl-3 py-0.5 text-note">
          <b className="text-undecided">{c.title}.</b> {c.text}
          {c.by && <span className="block text-quiet text-small">confirmed by {c.by}</span>}
        </div>
      ))}
      {view.materials?.map((m) => (
        <p key={m.id} className="text-note">
          <span className="text-quiet">Have ready: </span>
          <b className="font-semibold">{m.class}.</b> {m.use}
        </p>
      ))}
      {view.step.why && (
        <p className="text-quiet text-small">
          <b className="font-semibold">Why:</b> {view.step.why}
        </p>
      )}
    </>
  );
}

/** What nobody asked about: it stands on what the customer takes home. */
function Find({ rebuild, step, say }: { rebuild: string; step: string; say: StepProps["say"] }) {
  const [open, setOpen] = useState(false);
  if (open) return <FoundForm rebuild={rebuild} step={step} say={say} onDone={() => setOpen(false)} />;
  return (
    <Button look="quiet" onClick={() => setOpen(true)}>
      Found something else
    </Button>
  );
}

/** Where a lead sees what the rebuild has cost so far. */
function CostsLink({ rebuild }: { rebuild: string }) {
  const leads = useSession().data?.person.role === "lead";
  if (!leads) return null;
  return (
    <Link
      to="/costs/$id"
      params={{ id: rebuild }}
      className="min-h-11 border border-hair text-quiet px-3 flex items-center no-underline"
    >
      Costs
    </Link>
  );
}

/** A whole step that this job does not need: why, and what does without it. */
function LeaveAway({ view, say }: Pick<StepProps, "view" | "say">) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useKept(`skip.${view.step.id}`);
  if (!open)
    return (
      <Button look="quiet" name="skip" onClick={() => setOpen(true)}>
        Step not needed
      </Button>
    );
  const taken = view.taken_from ?? [];
  return (
    <form
      className="flex flex-col gap-2 border border-hair p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim()) say({ act: "skip", reason: reason.trim() }, () => setReason(""));
      }}
    >
      {taken.length > 0 && (
        <p className="text-note text-undecided">
          A figure is missing then at: {taken.join(", ")}. What depends on it gets no verdict.
        </p>
      )}
      <Field label="Not needed, because" value={reason} onValue={setReason} autoFocus />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" name="skip" value="yes" hint="Enter" disabled={reason.trim() === ""}>
          Skip this step
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

/** How long it really took, where the screen was not open or stood open without anybody there. */
function TimeHere({ view, say }: Pick<StepProps, "view" | "say">) {
  const [open, setOpen] = useState(false);
  const [minutes, setMinutes] = useState("");
  const me = useSession().data?.person.login ?? "";
  const old = liveAt(view.entries, "time", me);
  if (!open)
    return (
      <Button look="quiet" onClick={() => setOpen(true)}>
        {old ? `My time here: ${old.body.minutes ?? 0} min` : "My time here"}
      </Button>
    );
  return (
    <form
      className="flex gap-2 items-end"
      onSubmit={(e) => {
        e.preventDefault();
        if (minutes.trim() === "") return;
        say({ act: "time", minutes, item: me, ...(old && { supersedes: old.id }) }, () => setOpen(false));
      }}
    >
      <Field
        label="Minutes I spent on this step"
        value={minutes}
        onValue={setMinutes}
        inputMode="numeric"
        numeric
        autoFocus
        className="grow"
      />
      <Button type="submit" name="time" disabled={minutes.trim() === ""}>
        Save time
      </Button>
    </form>
  );
}

function Remark({ step, say }: { step: string; say: StepProps["say"] }) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useKept(`note.${step}`);
  useKey("remark", "write a remark", () => setOpen(true));
  if (!open)
    return (
      <Button look="quiet" hint="M" onClick={() => setOpen(true)}>
        Write a remark
      </Button>
    );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        say({ act: "note", note }, () => {
          setNote("");
          setOpen(false);
        });
      }}
    >
      <Words label="Remark" name="remark" rows={3} autoFocus value={note} onValue={setNote} />
      <Button type="submit" name="note" disabled={note.trim() === ""} className="w-full mt-1">
        Save remark
      </Button>
    </form>
  );
}
