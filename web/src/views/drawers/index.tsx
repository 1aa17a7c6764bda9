import { useCount, useDrawers } from "../../data/shop";
import { useSession } from "../../data/session";
import { drawerNamed, typedCount } from "../../model/pack";
import type { DrawerPage } from "../../model/types";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Form } from "../../parts/Form";
import { useKept } from "../../parts/kept";
import { Page } from "../../parts/Page";
import { DrawerDrawn } from "./DrawerDrawn";
import { Short } from "./Short";
import { several } from "../../model/several";

/** The shop's drawers, drawn as they lie: a compartment a size, a mark a piece. */
export function DrawersView() {
  const writes = useSession().data?.person.role !== "reader";
  const list = useDrawers();
  const drawers = list.data?.drawers;
  return (
    <Page title="Drawers" className="flex flex-col gap-5">
      <Fault error={list.error} />
      {drawers && <Short drawers={drawers} />}
      {drawers?.map((d) => (
        <DrawerDrawn key={d.id} drawer={d} writes={writes} />
      ))}
      {drawers?.length === 0 && (
        <p className="bg-sheet border border-ink p-5 text-line">
          No drawers yet. Start one below: one size per line, then how many.
        </p>
      )}
      {writes && drawers && <Column drawers={drawers} />}
    </Page>
  );
}

/** Counts a drawer, or begins one, by a typed column: a size and a number a line. */
function Column({ drawers }: { drawers: readonly DrawerPage[] }) {
  const [title, setTitle] = useKept("drawer.column.name", drawers[0]?.title ?? "");
  const [text, setText] = useKept("drawer.column");
  const [why, setWhy] = useKept("drawer.column.why", "counted");
  const keep = useCount(drawerNamed(title, drawers));
  const { lines, typed } = typedCount(text);
  const whole = title.trim() !== "" && lines.length > 0 && lines.length === typed;
  return (
    <Form
      label="Count a drawer"
      write={keep}
      value={whole ? { title, lines, why } : undefined}
      onTaken={() => setText("")}
      className="bg-sheet border border-ink p-5 grid grid-cols-[minmax(0,1fr)_320px] max-[820px]:grid-cols-1 gap-x-5 gap-y-3"
      go="Save count"
    >
      <div>
        <h2 className="text-head">Count a drawer</h2>
        <label htmlFor="column" className="block text-small text-quiet">
          One size per line, then how many: 0.54 mm 3
        </label>
        <textarea
          id="column"
          value={text}
          rows={6}
          onChange={(e) => setText(e.target.value)}
          className="w-full border border-ink bg-field px-3 py-2 font-mono"
        />
      </div>
      <div className="flex flex-col gap-3">
        <Field label="Drawer" value={title} onValue={setTitle} />
        <Field label="Why: counted, delivered" value={why} onValue={setWhy} />
        <p className="text-quiet text-note">
          {typed === 0
            ? "Sizes not listed here stay as they are."
            : `${lines.length} of ${several(typed, "line")} with a size and a number.`}
        </p>
      </div>
    </Form>
  );
}
