/**
 * Every key of the program with its one meaning, the same on every screen.
 * Figures are not here: they answer the line that is open.
 */
export const keymap = {
  find: "/",
  board: "B",
  calculators: "Q",
  light: "D",
  open: "O",
  next: "N",
  before: "P",
  record: "R",
  work: "W",
  goOn: "G",
  /** What this screen is for: fit, decide, sign, start the clock. */
  act: "F",
  acknowledge: "A",
  /** There is none: a part that is not there, a figure nobody knows. */
  missing: "V",
  unit: "U",
  remark: "M",
  keep: "K",
  promise: "Y",
  arrived: "H",
  /** To the line one writes on: the tray of a part, what was seen of it. */
  tray: "T",
  /** The pack that is in there. */
  inThere: "E",
  /** What the gauge reads now. */
  take: "L",
  goesIn: "I",
  stiff: "S",
  crunches: "C",
  refuses: "X",
  jumpsOut: "J",
} as const;

export type KeyName = keyof typeof keymap;

/** A key by its meaning, or the figure of an answer. */
export type Pressed = KeyName | `${number}`;

export const keyOf = (p: Pressed): string => (isNamed(p) ? keymap[p] : p);

const isNamed = (p: Pressed): p is KeyName => p in keymap;

/** A place behind a key on the keyboard, where the layout writes other letters: Cyrillic, Greek. */
const behind = (code: string) => /^(?:Key|Digit|Numpad)(\w)$/.exec(code)?.[1] ?? "";

/**
 * What a press means: the letter that the layout writes; where it writes none
 * of ours (another script, a figure that wants Shift), the one the key bears.
 */
export function meant(e: { key: string; code: string }, known: (key: string) => boolean): string {
  const written = e.key.toUpperCase();
  if (known(written)) return written;
  const borne = behind(e.code);
  return /^[A-Z0-9]$/.test(written) || !known(borne) ? written : borne;
}
