import type { ComponentType } from "react";
import type { Typed } from "../../model/asked";
import type { KnownPart } from "../../model/sold";
import { ChainDrawn } from "./ChainDrawn";
import { DiscsDrawn } from "./DiscsDrawn";
import { DowelsDrawn } from "./DowelsDrawn";
import { GearsDrawn } from "./GearsDrawn";
import { LineEdited } from "./LineEdited";
import { KitsDrawn, SinglesDrawn } from "./SoldDrawn";
import { SpringDrawn } from "./SpringDrawn";
import { StagesDrawn } from "./StagesDrawn";
import { WaysDrawn } from "./WaysDrawn";

/** A structure being said, as a drawing takes it. */
export type DrawnProps = {
  rows: readonly unknown[];
  typed: Typed;
  onType: (name: string, text: string) => void;
  /** Says several fields at once. */
  onTypeAll: (more: Typed) => void;
  onRows: (rows: unknown[], typed: Typed) => void;
  /** The parts that the unit is known to have. */
  parts: readonly KnownPart[];
};

type DrawnFigure = {
  Drawn: ComponentType<DrawnProps>;
  /** The drawing has all its fields: no table stands beside it. */
  alone?: true;
  /** The drawing adds and takes away by itself. */
  grows?: true;
};

/** The structures that are said and corrected where they are drawn, by the path of their figure. */
export const drawnFigures: Record<string, DrawnFigure> = {
  ways: { Drawn: WaysDrawn, alone: true },
  kits: { Drawn: KitsDrawn, alone: true },
  singles: { Drawn: SinglesDrawn, alone: true },
  "figures.driveline": { Drawn: LineEdited, alone: true, grows: true },
  "figures.dowels": { Drawn: DowelsDrawn },
  "figures.gears": { Drawn: GearsDrawn },
  "figures.kits": { Drawn: DiscsDrawn, alone: true },
  "figures.links": { Drawn: ChainDrawn },
  "figures.run-in-stages": { Drawn: StagesDrawn },
  "figures.spring": { Drawn: SpringDrawn },
};
