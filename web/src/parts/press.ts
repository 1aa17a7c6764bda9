import type { KeyboardEvent } from "react";

/** What is drawn is pressed as a button is: by a touch, by Enter, by Space. */
export const press = (act: () => void) => ({
  tabIndex: 0,
  onClick: act,
  onKeyDown(e: KeyboardEvent) {
    if (e.key !== "Enter" && e.key !== " ") return;
    e.preventDefault();
    act();
  },
});
