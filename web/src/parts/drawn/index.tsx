import type { ComponentType } from "react";
import type { Typed } from "../../model/asked";
import { DowelsDrawn } from "./DowelsDrawn";
import { GearsDrawn } from "./GearsDrawn";
import { LineEdited } from "./LineEdited";

/** A structure being said, as a drawing takes it. */
export type DrawnProps = {
  rows: readonly unknown[];
  typed: Typed;
  onType: (name: string, text: string) => void;
  /** Says several fields at once. */
  onTypeAll: (more: Typed) => void;
  onRows: (rows: unknown[], typed: Typed) => void;
};

/** The structures that are corrected where they are drawn, by the path of their figure; alone: the drawing says it all. */
export const drawnFigures: Record<string, { Drawn: ComponentType<DrawnProps>; alone?: boolean }> = {
  "figures.driveline": { Drawn: LineEdited, alone: true },
  "figures.dowels": { Drawn: DowelsDrawn },
  "figures.gears": { Drawn: GearsDrawn },
};
