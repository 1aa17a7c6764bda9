import type { DrawnProps } from "./index";

/** Binds the fields of one row: what stands in each, and where what is typed goes. */
export const cells =
  ({ typed, onType }: Pick<DrawnProps, "typed" | "onType">, row: number) =>
  (name: string) => ({
    value: typed[`${row}.${name}`] ?? "",
    onValue: (text: string) => onType(`${row}.${name}`, text),
  });
