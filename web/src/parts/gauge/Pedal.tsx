import { useEffect, useEffectEvent, useState } from "react";
import { Button } from "../Button";

const place = "handwerk.pedal";

/** Any pedal that acts as a key: it is pressed once to be known, and takes from then on, in a field too. */
export function Pedal({ onPress }: { onPress: () => void }) {
  const [key, setKey] = useState(() => localStorage.getItem(place) ?? "");
  const [learns, learn] = useState(false);
  const onKey = useEffectEvent((e: KeyboardEvent) => {
    if (!learns && e.key !== key) return;
    e.preventDefault();
    e.stopPropagation();
    if (!learns) {
      if (!e.repeat) onPress();
      return;
    }
    learn(false);
    if (isText(e.key)) return;
    localStorage.setItem(place, e.key);
    setKey(e.key);
  });
  useEffect(() => {
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, []);
  return (
    <Button look="quiet" onClick={() => learn(!learns)}>
      {learns ? "Press the pedal now" : key ? `Pedal: ${key}` : "Use a pedal"}
    </Button>
  );
}

/** A key that writes, or that a hand needs to write, is no pedal. */
const isText = (key: string) =>
  key.length === 1 ||
  ["Enter", "Tab", "Escape", "Backspace", "Shift", "Alt", "Control", "Meta"].includes(key);
