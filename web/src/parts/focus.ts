import { type RefObject, useEffect } from "react";

/** The first thing to type, else to press, at a place of a sheet. */
function controlAt(sheet: HTMLElement, place: string): HTMLElement | null {
  const typed = "input:not([type=file]):not(.sr-only), select, textarea";
  const pressed = "[role=radio][tabindex='0'], [role=slider], button:not([data-look=quiet])";
  for (const what of [typed, pressed]) {
    const all = what.split(", ").map((w) => `${place}${w}`);
    const found = [...sheet.querySelectorAll<HTMLElement>(all.join(", "))].find(
      (e) => !e.matches(":disabled") && e.offsetParent !== null,
    );
    if (found) return found;
  }
  return null;
}

/** Where the hand goes: the line that is current, else on, when the step is done, else the first control. */
const nextControl = (sheet: HTMLElement) =>
  controlAt(sheet, "[data-current] ") ??
  elsewhere("aside [name=next]") ??
  controlAt(sheet, "") ??
  elsewhere("aside [data-look=go]");

const elsewhere = (what: string) => document.querySelector<HTMLElement>(what);

/**
 * The focus never falls away: on entering a step, and when what had it is
 * gone, it goes to where the hand goes next.
 */
export function useFocusWithin(sheet: RefObject<HTMLElement | null>, changed: unknown) {
  useEffect(() => {
    if (changed === undefined) return;
    let timer = 0;
    let left = 30; // looks, while the file of a bench is still on its way
    const look = () => {
      const now = document.activeElement;
      if (!sheet.current || (now && now !== document.body && now.isConnected)) return;
      const next = nextControl(sheet.current);
      if (!next && left-- > 0) timer = window.setTimeout(look, 60);
      else (next ?? elsewhere("main"))?.focus({ preventScroll: true });
    };
    timer = window.setTimeout(look, 60);
    return () => clearTimeout(timer);
  }, [sheet, changed]);
}

/** Says in the window's title where one is. */
export function useTitle(title: string) {
  useEffect(() => {
    document.title = title ? `${title}, Handwerk` : "Handwerk";
  }, [title]);
}
