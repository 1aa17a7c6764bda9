import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../model/client";
import { type Answer, type EntryView, liveAt, type StackPart, type StepOf } from "../../model/types";
import { Button } from "../../parts/Button";
import { useSession } from "../../parts/data";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Frame } from "../../parts/Frame";
import { LeftBehind, useKept } from "../../parts/kept";
import { useKey } from "../../parts/keys";
import { TakePhoto } from "../../parts/TakePhoto";
import type { PropsOf } from "../props";
import { ShaftRow } from "./ShaftRow";

type Work = StepOf<"stack">["work"];

const acts: Record<Work, "removed" | "verdict" | "fitted"> = {
  remove: "removed",
  inspect: "verdict",
  fit: "fitted",
};

const inOrder = "in removal order, front at the left";
const drawn: Record<Work, string> = {
  remove: inOrder,
  inspect: inOrder,
  fit: "as they go on, from the right",
};
const doneWord: Record<Work, string> = { remove: "off", inspect: "looked at", fit: "in" };

/** The entry that stands for a part in this work. */
const standing = (entries: EntryView[], work: Work, part: string) => liveAt(entries, acts[work], part);

const isDone = (work: Work, p: StackPart) =>
  work === "remove" ? p.removed : work === "inspect" ? p.verdict : p.fitted;

/** A lead keeps the parts as they came off: the family's next unit is taken apart by them. */
function KeepStack({ rebuild, step }: { rebuild: string; step: string }) {
  const leads = useSession().data?.person.role === "lead";
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/v1/rebuilds/{id}/kept-stack", {
          params: { path: { id: rebuild } },
          body: { step },
        }),
      ),
  });
  if (!leads) return null;
  return (
    <div className="mt-3.5 flex flex-wrap gap-3 items-center">
      <Button name="keep-stack" disabled={keep.isPending || keep.isSuccess} onClick={() => keep.mutate()}>
        Keep these parts in the family's sheet
      </Button>
      {keep.data && (
        <p role="status" className="text-in">
          In the sheet, version {keep.data.sheet.version}
        </p>
      )}
      <Fault error={keep.error} />
    </div>
  );
}

/** A stack of parts on their shaft: taken off, looked at, put back in reverse. */
export default function StackStep(p: PropsOf<"stack">) {
  const { view } = p;
  const { work, stack: parts } = view;
  const order = work === "fit" ? parts.toReversed() : parts;
  const next = order.find((x) => !isDone(work, x));
  const [picked, setPicked] = useState("");
  const [correcting, setCorrecting] = useState("");
  const old = correcting ? standing(view.entries, work, correcting) : undefined;
  const part =
    parts.find((x) => (old ? x.id === correcting : x.id === picked && !isDone(work, x) && work !== "fit")) ??
    next;
  const say: typeof p.say = (d, then) =>
    p.say({ ...d, ...(old && { supersedes: old.id }) }, () => {
      setCorrecting("");
      then?.();
    });
  // A part that is done is touched to correct it, another to do it next.
  const pick = (id: string) => {
    setCorrecting(standing(view.entries, work, id) ? id : "");
    setPicked(id);
  };
  const bench = { ...p, say, correcting: old !== undefined };
  const done = parts.filter((x) => isDone(work, x)).length;
  return (
    <>
      <Frame
        label="Parts along the shaft"
        block={[
          ["drawn", drawn[work]],
          ["parts", `${done} of ${parts.length} ${doneWord[work]}`],
        ]}
        side={<Legend work={work} />}
      >
        <ShaftRow parts={parts} work={work} current={part?.id} onPick={pick} />
      </Frame>
      {part && work === "remove" && <RemovePart key={part.id} {...bench} part={part} />}
      {part && work === "inspect" && <InspectPart key={part.id} {...bench} part={part} />}
      {part && work === "fit" && <FitPart key={part.id} {...bench} part={part} />}
      {old && (
        <Button look="quiet" className="mt-2.5" onClick={() => setCorrecting("")}>
          Leave it as it was
        </Button>
      )}
      <LeftBehind
        place={`${view.step.id}.part`}
        name={(at) => parts.find((x) => x.id === at && x.id !== part?.id && isDone(work, x))?.name}
        onGo={pick}
      />
      <PartList
        parts={order}
        work={work}
        current={part?.id}
        onPick={work === "fit" ? undefined : pick}
        onCorrect={pick}
      />
      {work === "remove" && <FoundPart {...p} />}
      {work === "remove" && !next && <KeepStack rebuild={p.rebuild} step={view.step.id} />}
    </>
  );
}

function Legend({ work }: { work: Work }) {
  const lines: Record<Work, string> = {
    remove:
      "The arrow is the way the part faces, front at the left; two arrows: in or out; L, R: to that side; a dash: either way. A dashed outline is still on.",
    inspect: "A cross is replaced, a file mark is reworked, a gap was not there.",
    fit: "Filled parts are in. The next one is blue.",
  };
  return <p className="p-3 text-small text-quiet">{lines[work]}</p>;
}

type PartProps = PropsOf<"stack"> & { part: StackPart; correcting: boolean };

function RemovePart({ rebuild, view, part, say, busy, correcting }: PartProps) {
  const [faces, setFaces] = useKept(`${view.step.id}.faces/${part.id}`, part.seen ?? part.faces ?? "");
  const [tray, setTray] = useKept(`${view.step.id}.part/${part.id}`, correcting ? (part.tray ?? "") : "");
  const [photo, setPhoto] = useState("");
  const laid = { ...(faces && { faces }), ...(tray && { tray }) };
  const off = (outcome: "removed" | "not-found") =>
    say(
      { act: "removed", item: part.id, outcome, ...(outcome === "removed" && laid), ...(photo && { photo }) },
      () => {
        setTray("");
        setFaces(part.faces ?? "");
      },
    );
  useKey("X", "the part is not there", () => off("not-found"), !busy);
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
        {part.once && <Once />}
      </h3>
      <div className="flex flex-wrap gap-3 items-end mt-2">
        <Field label="Faces" value={faces} onValue={setFaces} className="grow basis-[190px]" />
        <Field label="Tray" value={tray} onValue={setTray} className="w-28" autoFocus />
        <TakePhoto rebuild={rebuild} label={photo ? "Picture taken" : "Picture"} onTaken={setPhoto} />
        <Button type="submit" look="go" hint="Enter" name="removed" value="removed" disabled={busy}>
          Off and laid down
        </Button>
        <Button hint="X" name="removed" value="not-found" disabled={busy} onClick={() => off("not-found")}>
          Not there
        </Button>
      </div>
    </form>
  );
}

const Once = () => <span className="ml-3 text-small font-normal text-undecided">always renewed</span>;

function InspectPart({ view, part, say, busy, correcting }: PartProps) {
  const usual = correcting ? (part.reason ?? "") : part.not_found ? "was not there when taken apart" : "";
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`, usual);
  const judge = (outcome: string) =>
    say({ act: "verdict", item: part.id, outcome, ...(reason.trim() && { reason }) }, () => setReason(usual));
  const wants = (x: Answer) => x.reason === true && reason.trim() === "";
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting && "Correct: "}
        {part.name}
        {part.once && <Once />}
        {part.not_found && <span className="ml-3 text-small font-normal text-out">was not there</span>}
      </h3>
      <div className="flex flex-wrap gap-2 items-end mt-2">
        <Field
          label="What was seen"
          value={reason}
          onValue={setReason}
          className="grow basis-[220px]"
          autoFocus
        />
        {part.answers.map((x, i) => (
          <Judge
            key={x.id}
            hint={String(i + 1)}
            id={x.id}
            text={x.text}
            disabled={busy || wants(x)}
            onPick={() => judge(x.id)}
          />
        ))}
      </div>
    </div>
  );
}

function Judge({
  hint,
  id,
  text,
  disabled,
  onPick,
}: {
  hint: string;
  id: string;
  text: string;
  disabled: boolean;
  onPick: () => void;
}) {
  useKey(hint, text.toLowerCase(), onPick, !disabled);
  return (
    <Button hint={hint} name="verdict" value={id} disabled={disabled} onClick={onPick}>
      {text}
    </Button>
  );
}

function howItGoesIn(part: StackPart) {
  const says = [
    part.faces && `Faces: ${part.faces}.`,
    part.seen && part.seen !== part.faces && `It was found ${part.seen}.`,
    part.fit && `${part.fit}.`,
    part.tray && `It lies in ${part.tray}.`,
  ];
  return says.filter(Boolean).join(" ");
}

function FitPart({ view, part, say, busy, correcting }: PartProps) {
  const [reason, setReason] = useKept(`${view.step.id}.part/${part.id}`);
  const fitted = () => say({ act: "fitted", item: part.id, outcome: "fitted" });
  useKey("F", "the part is in", fitted, !busy);
  return (
    <div data-part={part.id} className="border border-t-0 border-ink p-4 bg-tint/50 border-l-5 border-l-blue">
      <h3 className="text-head">
        {correcting ? "Correct" : "Now in"}: {part.name}
      </h3>
      <p className="text-line">{howItGoesIn(part)}</p>
      {part.verdict && part.verdict !== "reuse" && (
        <p className="text-undecided font-semibold">
          {part.verdict === "rework" ? "Reworked: look at it once more." : "A new one goes in."}
        </p>
      )}
      <div className="flex flex-wrap gap-3 items-end mt-2">
        <Button look="go" hint="F" name="fitted" value="fitted" disabled={busy} onClick={fitted}>
          It is in
        </Button>
        <form
          className="flex gap-2 items-end grow"
          onSubmit={(e) => {
            e.preventDefault();
            say({ act: "fitted", item: part.id, outcome: "left-out", reason }, () => setReason(""));
          }}
        >
          <Field label="Stays out, because" value={reason} onValue={setReason} className="grow" />
          <Button type="submit" look="quiet" disabled={busy || reason.trim() === ""}>
            Leave it out
          </Button>
        </form>
      </div>
    </div>
  );
}

/** A part that no plan foresaw. */
function FoundPart({ say, busy }: PropsOf<"stack">) {
  const [name, setName] = useState("");
  const [tray, setTray] = useState("");
  return (
    <form
      className="flex flex-wrap gap-2 items-end mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        say({ act: "removed", outcome: "removed", name, ...(tray && { tray }) }, () => {
          setName("");
          setTray("");
        });
      }}
    >
      <Field
        label="Found a part that is not listed?"
        placeholder="what it is"
        value={name}
        onValue={setName}
        className="grow basis-[220px]"
      />
      <Field label="Tray" value={tray} onValue={setTray} className="w-28" />
      <Button type="submit" disabled={busy || name.trim() === ""}>
        Add it
      </Button>
    </form>
  );
}

type ListProps = {
  parts: StackPart[];
  work: Work;
  current: string | undefined;
  onPick: ((id: string) => void) | undefined;
  onCorrect: (id: string) => void;
};

const correctLook = "ml-3 underline underline-offset-3 text-quiet min-h-11";

function PartList({ parts, work, current, onPick, onCorrect }: ListProps) {
  return (
    <table className="w-full mt-3 text-note border-collapse">
      <caption className="sr-only">Parts</caption>
      <thead>
        <tr className="text-quiet text-left">
          <th className="font-normal w-7">no.</th>
          {["part", "faces", "tray", "state"].map((x) => (
            <th key={x} className="font-normal">
              {x}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {parts.map((x, i) => (
          <tr
            key={x.id}
            className={`border-t border-hair ${x.id === current ? "text-blue font-semibold" : ""}`}
          >
            <td className="font-mono py-1">{i + 1}</td>
            <td>
              {onPick && !isDone(work, x) ? (
                <button
                  type="button"
                  className="underline underline-offset-3 min-h-11"
                  onClick={() => onPick(x.id)}
                >
                  {x.name}
                </button>
              ) : (
                x.name
              )}
            </td>
            <td className="text-quiet">{x.seen || x.faces}</td>
            <td>
              {x.tray}
              {x.photo && (
                <a href={`/api/v1/photos/${x.photo}`} target="_blank" rel="noreferrer" className="ml-2">
                  picture
                </a>
              )}
            </td>
            <td>
              {x.says}
              {isDone(work, x) && (
                <button
                  type="button"
                  className={correctLook}
                  aria-label={`correct ${x.name}`}
                  onClick={() => onCorrect(x.id)}
                >
                  correct
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
