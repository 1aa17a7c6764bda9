import type { ComponentType } from "react";
import { benches } from "../benches/bench";
import { type Later, later } from "../parts/later";
import { FigureForm } from "./Figures";
import type { StepProps } from "./props";

const folders = import.meta.glob<{ default: ComponentType<StepProps> }>("./*/index.tsx");

/** The screen of each kind of step, found by the name of its folder and loaded when first needed. */
export const screens: Record<string, Later<StepProps>> = Object.fromEntries(
  Object.entries(folders).map(([path, load]) => [
    path.split("/")[1] ?? "",
    later(async () => (await load()).default),
  ]),
);

/** Fetches screens and benches before anybody stands at a step; what fails is asked for again there. */
export function fetchScreens() {
  const parts = [
    ...Object.values(screens),
    ...Object.values(benches).flatMap((b) => Object.values(b)),
    FigureForm,
  ];
  void Promise.allSettled(parts.map((part) => part.fetch()));
}
