import type { StackPart } from "../../model/types";

export type Size = { w: number; h: number };

/** Width along the shaft and height across it, per shape, in drawing units. */
export const sizes: Record<string, Size> = {
  nut: { w: 22, h: 44 },
  flange: { w: 26, h: 120 },
  seal: { w: 16, h: 92 },
  cover: { w: 20, h: 150 },
  bearing: { w: 28, h: 96 },
  circlip: { w: 7, h: 70 },
  fork: { w: 22, h: 130 },
  sleeve: { w: 36, h: 88 },
  washer: { w: 10, h: 76 },
  gear: { w: 44, h: 124 },
  rollers: { w: 36, h: 60 },
  shaft: { w: 84, h: 30 },
  disc: { w: 12, h: 146 },
  plate: { w: 9, h: 126 },
  spring: { w: 18, h: 108 },
  flywheel: { w: 30, h: 158 },
};
const plain: Size = { w: 24, h: 80 };
const block: Size = { w: 64, h: 110 };
export const gap = 17;
const start = 16;

/** A part in its place along a shaft, or a sub-assembly that is folded to one block. */
export type Placed =
  | { kind: "part"; part: StackPart; n: number; size: Size; x: number }
  | { kind: "sub"; name: string; parts: StackPart[]; from: number; to: number; size: Size; x: number };

/** A sub-assembly that is open: from where to where it reaches. */
export type Bracket = { name: string; from: number; to: number };

export type Shaft = {
  name: string;
  width: number;
  placed: Placed[];
  brackets: Bracket[];
  /** Where it begins on its line. */
  at: number;
};

/** Shafts that are drawn side by side; all lines are as wide, so that all is drawn to one scale. */
export type Line = {
  width: number;
  shafts: Shaft[];
  /** How far its largest part reaches from the axis. */ half: number;
};

export const sizeOf = (p: StackPart) => sizes[p.shape ?? ""] ?? plain;

/**
 * The parts along their shafts, in the order of the stack and numbered through; a
 * sub-assembly whose name is folded is one block, the others are bracketed.
 */
export function shaftsOf(parts: readonly StackPart[], folded: ReadonlySet<string>): Line[] {
  const shafts: Shaft[] = [];
  parts.forEach((part, i) => {
    const name = part.shaft ?? "";
    let shaft = shafts.find((s) => s.name === name);
    if (!shaft) shafts.push((shaft = { name, width: start, placed: [], brackets: [], at: 0 }));
    put(shaft, part, i + 1, folded);
  });
  return sideBySide(shafts);
}

/** Short shafts share a line as wide as the longest. */
function sideBySide(shafts: readonly Shaft[]): Line[] {
  const width = Math.max(300, ...shafts.map((s) => s.width));
  const lines: Line[] = [];
  for (const s of shafts) {
    const line = lines.at(-1);
    const at = line ? Math.max(...line.shafts.map((x) => x.at + Math.max(narrow, x.width))) + gap : 0;
    if (line && at + Math.max(narrow, s.width) <= width) {
      line.shafts.push({ ...s, at });
      line.half = Math.max(line.half, halfOf(s));
    } else lines.push({ width, shafts: [{ ...s, at: 0 }], half: halfOf(s) });
  }
  return lines;
}

const halfOf = (s: Shaft) => Math.max(40, ...s.placed.map((p) => p.size.h / 2));

/** A shaft is as long as its name at least. */
const narrow = 110;

function put(shaft: Shaft, part: StackPart, n: number, folded: ReadonlySet<string>) {
  const sub = part.sub ?? "";
  if (sub !== "" && folded.has(sub)) {
    fold(shaft, part, n, sub);
    return;
  }
  const last = shaft.placed.at(-1);
  const size = sizeOf(part);
  const x = shaft.width;
  shaft.placed.push({ kind: "part", part, n, size, x });
  shaft.width += size.w + gap;
  if (sub === "") return;
  const open = shaft.brackets.at(-1);
  const goesOn = open?.name === sub && last?.kind === "part" && last.part.sub === sub;
  if (goesOn) open.to = x + size.w;
  else shaft.brackets.push({ name: sub, from: x, to: x + size.w });
}

/** Puts a part into the block of its sub-assembly. */
function fold(shaft: Shaft, part: StackPart, n: number, name: string) {
  const last = shaft.placed.at(-1);
  if (last?.kind === "sub" && last.name === name) {
    last.parts.push(part);
    last.to = n;
    return;
  }
  shaft.placed.push({ kind: "sub", name, parts: [part], from: n, to: n, size: block, x: shaft.width });
  shaft.width += block.w + gap;
}

/** The part that one dropped at x lies behind; "-" in front of all. */
export function behindAt(shaft: Shaft, x: number, moved: string): string {
  let behind = "-";
  for (const p of shaft.placed) {
    const last = p.kind === "part" ? p.part : p.parts.at(-1);
    if (last && last.id !== moved && p.x + p.size.w / 2 < x) behind = last.id;
  }
  return behind;
}

/** Where a part lies behind when it goes one place sooner or later in the whole stack. */
export function behindBy(parts: readonly StackPart[], id: string, by: -1 | 1): string | undefined {
  const i = parts.findIndex((p) => p.id === id);
  const to = i + by;
  if (i < 0 || to < 0 || to >= parts.length) return undefined;
  if (by === 1) return parts[to]?.id;
  return to === 0 ? "-" : parts[to - 1]?.id;
}

/** The sub-assemblies of a stack, in their order. */
export const subsOf = (parts: readonly StackPart[]): string[] => [
  ...new Set(parts.map((p) => p.sub ?? "").filter(Boolean)),
];

/** The way a part was found facing: said in its words, or as the book has it. */
export function facingOf(p: StackPart): string | undefined {
  const said = /^faces (\w+)$/.exec(p.seen ?? "")?.[1];
  if (said) return said;
  return p.seen && p.seen !== p.faces ? undefined : p.facing;
}

/** Whether a part is dealt with in this work. */
export const isDone = (work: string, p: StackPart): boolean =>
  Boolean(work === "remove" ? p.removed : p.none || (work === "inspect" ? p.verdict : p.fitted));

/**
 * The way a part faces, below it: an arrow along the shaft or across it, two for in and out, a bar for
 * either.
 */
export const facingPaths: Record<string, string> = {
  front: "M8 0h-16m5 -4l-5 4 5 4",
  rear: "M-8 0h16m-5 -4l5 4 -5 4",
  up: "M0 8v-14m-4 5l4 -5 4 5",
  down: "M0 -6v14m-4 -5l4 5 4 -5",
  in: "M-10 0h7m-3 -4l4 4 -4 4M10 0h-7m3 -4l-4 4 4 4",
  out: "M-2 0h-8m4 -4l-4 4 4 4M2 0h8m-4 -4l4 4 -4 4",
  either: "M-6 0h12",
};
