import { useState } from "react";
import type { Typed } from "../../model/asked";
import { hung, kindWords, type Member, membersOf, renamed, without } from "../../model/line";
import { Button } from "../Button";
import { Field } from "../Field";
import { cells } from "./cells";
import { DrivelineDrawn } from "./DrivelineDrawn";
import type { DrawnProps } from "./index";
import type { Place } from "./Symbol";

/**
 * What drives what, corrected where it is drawn: touch a member to say it otherwise, a shaft to hang one
 * on.
 */
export function LineEdited({ rows, typed, onType, onRows }: DrawnProps) {
  const [at, setAt] = useState<Place | undefined>();
  const members = membersOf(rows, typed);
  const i = at?.what === "member" ? members.findIndex((m) => m.id === at.name) : -1;
  const shaft = at && at.what !== "member" ? at.name : undefined;
  const takeOut = () => {
    const left = without(rows, typed, i);
    onRows(left.rows, left.typed);
    setAt(undefined);
  };
  return (
    <div className="border border-hair p-3 flex flex-col gap-3">
      <DrivelineDrawn members={members} marks={at ? { [at.name]: { look: "chosen" } } : {}} onTouch={setAt} />
      {i >= 0 && (
        <MemberSaid i={i} typed={typed} onType={onType} onOut={members.length > 1 ? takeOut : undefined} />
      )}
      {shaft !== undefined && at && (
        <ShaftSaid
          key={shaft}
          name={shaft}
          onRename={(to) => {
            onRows([...rows], renamed(rows, typed, shaft, to));
            setAt({ ...at, name: to });
          }}
          onHang={(kind) => {
            const more = hung(rows, typed, shaft, kind);
            onRows(more.rows, more.typed);
            setAt(undefined);
          }}
        />
      )}
      {!at && <Wanted members={members} typed={typed} />}
    </div>
  );
}

/** What may be done, and the ratio that is still wanted. */
function Wanted({ members, typed }: { members: readonly Member[]; typed: Typed }) {
  const of = members.find((m, k) => m.kind === "gear" && !(typed[`${k}.ratio`] ?? "").trim());
  return (
    <p className="text-quiet">
      Touch a part to change it. Touch a shaft or wheel to add a part to it.
      {of && ` Still needed: the ratio of ${of.says || of.id}.`}
    </p>
  );
}

type MemberProps = {
  i: number;
  typed: Typed;
  onType: (name: string, text: string) => void;
  onOut: (() => void) | undefined;
};

function MemberSaid({ i, typed, onType, onOut }: MemberProps) {
  const cell = cells({ typed, onType }, i);
  const kind = cell("kind").value;
  return (
    <div className="flex flex-wrap gap-3 items-end" role="group" aria-label={kindWords[kind] ?? kind}>
      <Field label="Name" {...cell("says")} className="basis-[240px] grow" />
      {kind === "gear" && (
        <Field
          label="Ratio (input turns for one output turn)"
          {...cell("ratio")}
          inputMode="decimal"
          numeric
          autoFocus
          className="basis-[180px]"
        />
      )}
      {onOut && <Button onClick={onOut}>Not on this unit</Button>}
    </div>
  );
}

type ShaftProps = { name: string; onRename: (to: string) => void; onHang: (kind: string) => void };

function ShaftSaid({ name, onRename, onHang }: ShaftProps) {
  const [to, setTo] = useState(name);
  const fits = /^[a-z0-9][a-z0-9-]*$/.test(to);
  return (
    <div className="flex flex-wrap gap-3 items-end" role="group" aria-label={name.replaceAll("-", " ")}>
      <Field
        label="Name of this shaft"
        value={to}
        onValue={(v) => setTo(v.toLowerCase().replaceAll(" ", "-"))}
        error={fits ? undefined : "small letters and hyphens"}
        className="basis-[200px]"
      />
      <Button disabled={!fits || to === name} onClick={() => onRename(to)}>
        Rename it
      </Button>
      <label className="block">
        <span className="block text-small text-quiet">Add to it</span>
        <select
          value=""
          onChange={(e) => e.target.value && onHang(e.target.value)}
          className="min-h-11 px-3 border border-ink bg-field"
        >
          <option value="">another part</option>
          {Object.entries(kindWords).map(([id, text]) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
