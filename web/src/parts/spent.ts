import { useEffect, useRef } from "react";
import { begun, seconds, touched } from "../model/spent";

/** How long somebody has been at a step, and that it begins anew. */
export function useSpent(): { seconds: () => number; again: () => void } {
  const spent = useRef(begun(0));
  useEffect(() => {
    spent.current = begun(Date.now());
    const touch = () => {
      spent.current = touched(spent.current, Date.now());
    };
    const events = ["pointerdown", "keydown"] as const;
    for (const e of events) window.addEventListener(e, touch, { passive: true });
    return () => {
      for (const e of events) window.removeEventListener(e, touch);
    };
  }, []);
  return {
    seconds: () => seconds(spent.current, Date.now()),
    again: () => {
      spent.current = begun(Date.now());
    },
  };
}
