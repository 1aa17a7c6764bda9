/** What takes a quantity, of all that is on the screen; a bare number is none. */
const fields = "main input[data-quantity], main input[inputmode=decimal]:not([data-bare])";

const isOpen = (e: Element | null): e is HTMLInputElement =>
  e instanceof HTMLInputElement && !e.disabled && !e.readOnly && e.matches(fields);

/** The field that a reading goes into: where the hand is, else where it begins, else the first that is empty. */
export function fieldAtHand(): HTMLInputElement | undefined {
  if (isOpen(document.activeElement)) return document.activeElement;
  const hand = document.querySelector("[data-hand]");
  if (isOpen(hand)) return hand;
  const all = [...document.querySelectorAll(fields)].filter(isOpen);
  return all.find((i) => i.value === "") ?? all.at(-1);
}

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

/** Types a reading and presses Enter, as a gauge that acts as a keyboard does; false where nothing asks for one. */
export function typeReading(text: string): boolean {
  const field = fieldAtHand();
  if (!field) return false;
  field.focus();
  write?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  // Once what was typed is drawn; where there is no form the hand goes on to the next.
  setTimeout(() => (field.form ? field.form.requestSubmit() : toNextField()));
  return true;
}
