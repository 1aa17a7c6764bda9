import { type ComponentType, lazy, type LazyExoticComponent } from "react";
import type { StepProps } from "./props";

const folders = import.meta.glob<{ default: ComponentType<StepProps> }>("./*/index.tsx");

type Screen = LazyExoticComponent<ComponentType<StepProps>>;

/** The screen of each kind of step, found by the name of its folder and loaded when first needed. */
export const screens: Record<string, Screen> = Object.fromEntries(
  Object.entries(folders).map(([path, load]) => [path.split("/")[1] ?? "", lazy(load)]),
);

/** Fetches the screens before anybody stands at a step. */
export function fetchScreens() {
  for (const load of Object.values(folders)) void load().catch(() => undefined);
}
