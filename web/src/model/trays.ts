import type { StackPart } from "./types";
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
  return list.toSorted((a, b) => (asked === "" ? 0 : a.name === asked ? -1 : b.name === asked ? 1 : 0));
}

export type Box = { name: string; parts: { part: StackPart; n: number }[]; photo: string | undefined };

/** Parts that came off and of which nobody said where they lie. */
export const nowhere = (parts: readonly StackPart[]): StackPart[] =>
  parts.filter((p) => p.removed === "removed" && !p.tray && !p.fitted);

/** The trays of a stack, with the numbers of what lies in each now and the last picture taken of it. */
export function traysOf(parts: readonly StackPart[]): Box[] {
  const boxes: Box[] = [];
  parts.forEach((part, i) => {
    if (!part.tray || part.removed !== "removed" || part.fitted) return;
    let box = boxes.find((b) => b.name === part.tray);
    if (!box) boxes.push((box = { name: part.tray, parts: [], photo: undefined }));
    box.parts.push({ part, n: i + 1 });
    box.photo = part.photo ?? box.photo;
  });
  return boxes.toSorted((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
}
