import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useKeepFigure } from "../data/rebuilds";
import { type FigureView, liveAt, may } from "../model/types";
import { Button } from "../parts/Button";
import { useSession } from "../data/session";
import { Fault } from "../parts/Fault";
import { useKey } from "../parts/keys";
import { later } from "../parts/later";
import { isOnItsWay, recordName } from "../parts/saying";
import type { FormProps } from "./FigureForm";
import type { StepProps } from "./props";

/** Where a figure is said; a step that lacks none is drawn without it. */
export const FigureForm = later<FormProps>(async () => (await import("./FigureForm")).default);

/** What the spec sheet does not say and the step wants: asked for here, one after the other. */
export function FiguresAsked(p: StepProps & { figures?: FigureView[] }) {
  const missing = p.figures ?? (p.view.figures ?? []).filter((f) => !f.entry && !f.may);
  const [first, ...rest] = missing;
  if (!first) return null;
  return (
    <section
      aria-label="Missing from the spec sheet"
      className="border border-ink border-l-6 border-l-blue mt-3.5"
    >
      <FigureForm key={first.path} {...p} figure={first} left={missing.length} />
      {rest.length > 0 && (
        <p className="px-4 py-2.5 border-t border-hair text-quiet text-note">
          Next: {rest.map((f) => f.called).join(", ")}.
        </p>
      )}
    </section>
  );
}

/** What would say more of a choice, if somebody knew it: the step goes on without. */
export function FiguresOffered(p: StepProps) {
  const [open, setOpen] = useState(false);
  const figures = (p.view.figures ?? []).filter((f) => !f.entry && f.may);
  if (figures.length === 0) return null;
  if (open) return <FiguresAsked {...p} figures={figures} />;
  return (
    <p className="mt-3.5 flex flex-wrap gap-x-4 items-center">
      <span className="text-quiet grow basis-[260px]">
        More could be worked out with: {figures.map((f) => f.called).join(", ")}.
      </span>
      <Button look="quiet" name="figures" onClick={() => setOpen(true)}>
        Say {figures.length === 1 ? "it" : "them"}
      </Button>
    </p>
  );
}

/** What was said in the sheet's place, by whom and from where, to be corrected or kept in the sheet. */
export function FiguresSaid(p: StepProps) {
  const { view, plan } = p;
  const [correcting, setCorrecting] = useState<string | undefined>();
  const said = (view.figures ?? []).filter((f) => f.entry);
  if (said.length === 0) return null;
  const stands = (f: FigureView) => liveAt(view.entries, "figure", f.path);
  const titles = new Map(plan.route.stations.flatMap((s) => s.steps).map((s) => [s.id, s.title]));
  return (
    <section aria-label="Figures added here" className="mt-3.5 border-t border-ink">
      {said.map((f) => (
        <div key={f.path} className="border-b border-hair py-1.5">
          <div className="flex flex-wrap gap-x-4 gap-y-1 items-center">
            <p className="grow">
              {f.says}{" "}
              <span className="text-quiet text-small">
                {f.by}
                {f.step !== view.step.id && `, at ${titles.get(f.step ?? "") ?? f.step}`}
              </span>
            </p>
            {stands(f) && may(view, "figure") && (
              <Button look="quiet" onClick={() => setCorrecting(correcting === f.path ? undefined : f.path)}>
                Correct<span className="sr-only"> {f.called}</span>
              </Button>
            )}
            <KeepInSheet {...p} figure={f} />
          </div>
          {correcting === f.path && f.entry && (
            <FigureForm {...p} figure={f} supersedes={f.entry} onDone={() => setCorrecting(undefined)} />
          )}
        </div>
      ))}
    </section>
  );
}

/** The family's sheet was written on meanwhile: it can be taken from here on, by an entry. */
export function NewerSheet({ view, plan, say }: StepProps) {
  const version = view.newer_sheet;
  if (!version || !may(view, "sheet")) return null;
  return (
    <p
      role="status"
      className="mt-3.5 border border-hair border-l-6 border-l-blue px-4 py-1.5 flex flex-wrap gap-x-4 items-center"
    >
      <span className="grow">
        The spec sheet is now version {version}. This rebuild uses version {view.sheet_version}.{" "}
        <Link to="/sheets/$id" params={{ id: plan.sheet.id }}>
          See what changed
        </Link>
      </span>
      <Button name="sheet" onClick={() => say({ act: "sheet" })}>
        Use version {version} now
      </Button>
    </p>
  );
}

/** A lead keeps a figure in the unit's spec sheet, or with its vehicle: the next rebuild knows it. */
function KeepInSheet({ rebuild, figure }: StepProps & { figure: FigureView }) {
  const leads = useSession().data?.person.role === "lead";
  const keep = useKeepFigure(rebuild);
  const entry = recordName(figure.entry ?? "");
  const put = () => keep.mutate(entry);
  const can = leads && figure.origin !== "not-known" && !isOnItsWay(entry);
  const where = figure.of === "vehicle" ? "to the vehicle" : "to the spec sheet";
  useKey("keep", `save ${where}: ${figure.called}`, put, can && !keep.isSuccess);
  if (!can) return null;
  if (keep.data)
    return (
      <p role="status" className="text-in">
        Saved {where}, version {keep.data.sheet.version}
      </p>
    );
  return (
    <>
      <Button hint="K" name="keep-figure" value={figure.path} disabled={keep.isPending} onClick={put}>
        Save {where}
        <span className="sr-only">: {figure.called}</span>
      </Button>
      <Fault error={keep.error} />
    </>
  );
}
