import { type RefObject, useEffect, useLayoutEffect } from "react";

/** What a place names as the hand's own, else the first thing to type, else to press. */
function controlAt(sheet: HTMLElement, place: string): HTMLElement | null {
  const own = ["[data-hand]", "[data-hands] [role=radio][tabindex='0']"];
  const typed = ["input:not([type=file]):not(.sr-only)", "select", "textarea"];
  const pressed = ["[role=radio][tabindex='0']", "[role=slider]", "button:not([data-look=quiet])"];
  for (const what of [own, typed, pressed]) {
    const found = [...sheet.querySelectorAll<HTMLElement>(what.map((w) => `${place}${w}`).join(", "))].find(
      (e) => !e.matches(":disabled, [aria-disabled=true]") && e.offsetParent !== null,
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

/** Nothing that takes a key has the focus. */
function isAway(now: Element | null) {
  return !now || now === document.body || !now.isConnected || now.matches(":disabled");
}

/**
 * The focus never falls away: on entering a step, and when what had it is
 * gone or closed, it goes to where the hand goes next, before the next key.
 */
export function useFocusWithin(sheet: RefObject<HTMLElement | null>) {
  useLayoutEffect(() => {
    let timer = 0;
    let left = 30; // looks, while the file of a bench is still on its way
    const look = () => {
      clearTimeout(timer);
      if (!sheet.current || !isAway(document.activeElement)) return;
      const next = nextControl(sheet.current);
      if (!next && left-- > 0) timer = window.setTimeout(look, 60);
      else (next ?? elsewhere("main"))?.focus({ preventScroll: true });
    };
    const watch = new MutationObserver(() => {
      left = 30;
      look();
    });
    watch.observe(document.body, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    timer = window.setTimeout(look, 60);
    return () => {
      watch.disconnect();
      clearTimeout(timer);
    };
  }, [sheet]);
}

/** Says in the window's title where one is. */
export function useTitle(title: string) {
  useEffect(() => {
    document.title = title ? `${title}, Handwerk` : "Handwerk";
  }, [title]);
}
