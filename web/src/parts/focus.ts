import { type RefObject, useEffect, useLayoutEffect } from "react";

/** What a place names as the hand's own. */
const own = ["[data-hand]", "[data-hands] [role=radio][tabindex='0']"];

/** The hand's own, else the first thing to type, else to press. */
function controlAt(sheet: HTMLElement, place: string, ways?: string[][]): HTMLElement | null {
  const typed = ["input:not([type=file]):not(.sr-only)", "select", "textarea"];
  const pressed = ["[role=radio][tabindex='0']", "[role=slider]", "button:not([data-look=quiet])"];
  for (const what of ways ?? [own, typed, pressed]) {
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

/** The line the hand was at is answered, and the focus is still there: another is current now, or none. */
const isLeftBehind = (line: Element | null, now: Element | null) =>
  line !== null && line !== now && line.contains(document.activeElement);

/** After the last line: what the step wants besides, or on; else the focus stays where it is. */
const afterLines = (sheet: HTMLElement) => controlAt(sheet, "", [own]) ?? elsewhere("aside [name=next]");

/**
 * The focus never falls away: on entering a step, when what had it is gone or
 * closed, and when its line is answered, it goes to where the hand goes next,
 * before the next key.
 */
export function useFocusWithin(sheet: RefObject<HTMLElement | null>) {
  useLayoutEffect(() => {
    let timer = 0;
    let left = 30; // looks, while the file of a bench is still on its way
    let line: Element | null = null;
    const look = () => {
      clearTimeout(timer);
      if (!sheet.current) return;
      const now = sheet.current.querySelector("[data-current]");
      const behind = isLeftBehind(line, now);
      line = now;
      if (behind && !now) afterLines(sheet.current)?.focus({ preventScroll: true });
      if (!isAway(document.activeElement) && !(behind && now)) return;
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
      attributeFilter: ["disabled", "data-current"],
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
