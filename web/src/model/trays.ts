import type { components } from "./schema.gen";

export type Tray = components["schemas"]["Tray"];
export type TrayPart = components["schemas"]["TrayPart"];

/** The trays with what was typed in them; nothing typed: the one that was asked for first. */
export function found(trays: readonly Tray[], typed: string, asked: string): Tray[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const hit = (t: Tray, p: TrayPart) => {
    const text = `${t.name} ${p.name} ${p.seen ?? ""}`.toLowerCase();
    return words.every((w) => text.includes(w));
  };
  const list = trays
    .map((t) => ({ ...t, parts: t.parts.filter((p) => hit(t, p)) }))
    .filter((t) => t.parts.length > 0);
  return list.toSorted(
    (a, b) => Number(b.name === asked && asked !== "") - Number(a.name === asked && asked !== ""),
  );
}
