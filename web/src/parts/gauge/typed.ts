/** What a reading may be typed into; a bare number, minutes and money are none. */
const fields = "main input[data-takes]";

const isOpen = (e: Element | null): e is HTMLInputElement =>
  e instanceof HTMLInputElement && !e.disabled && !e.readOnly && e.matches(fields);

/**
 * The field that a reading goes into: where the hand is, else where it begins, else the first that is
 * empty.
 */
export function fieldAtHand(): HTMLInputElement | undefined {
  const places = [document.activeElement, ...["[data-hand]", "[data-current] input[data-takes]"].map(first)];
  const all = [...document.querySelectorAll(fields)].filter(isOpen);
  return places.find(isOpen) ?? all.find((i) => i.value === "");
}

const first = (what: string) => document.querySelector(what);

/** What the gauge typed last: where it still stands, it was not taken. */
let ours = "";

/** Nothing stands there that a hand typed, or it is marked to be replaced. */
const isFree = (i: HTMLInputElement) =>
  i.value === "" || i.value === ours || (i.selectionStart === 0 && i.selectionEnd === i.value.length);

/** From the field at hand to the next, as a gauge that acts as a keyboard wants it. */
export function toNextField(): void {
  const at = document.activeElement;
  if (!(at instanceof HTMLInputElement) || at.type !== "text") return;
  const all = [...document.querySelectorAll("main input:not([type=checkbox]):not([type=radio])")];
  const next = all[all.indexOf(at) + 1];
  if (!(next instanceof HTMLInputElement)) return;
  next.focus();
  next.select();
}

const write = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;

/**
 * Types a reading and presses Enter, as a gauge that acts as a keyboard does; false where nothing
 * asks for one. What takes by itself never writes over what a hand has typed.
 */
export function typeReading(text: string, byItself = false): boolean {
  const field = fieldAtHand();
  if (!field || (byItself && !isFree(field))) return false;
  ours = text;
  field.focus();
  write?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  // Once what was typed is drawn; where there is no form the hand goes on to the next.
  setTimeout(() => (field.form ? field.form.requestSubmit() : toNextField()));
  return true;
}
