import { type ComponentProps, useState } from "react";
import { dayTyped, weekday } from "../model/moment";
import { Field } from "./Field";

type Props = Omit<ComponentProps<typeof Field>, "type" | "unit" | "inputMode">;

/** A day, written as all days are: 2026-12-03. What is typed as people say it, fri or +5, becomes one. */
export function DayField({ value, onValue, error, ...rest }: Props) {
  const [typed, setTyped] = useState(value);
  const [left, setLeft] = useState(true);
  const meant = dayTyped(typed);
  const shown = meant === value && typed !== "" ? typed : left ? value : typed; // picked elsewhere meanwhile
  return (
    <Field
      placeholder="2026-12-03, fri, +5"
      {...rest}
      value={shown}
      onValue={(text) => {
        setLeft(false);
        setTyped(text);
        onValue(dayTyped(text));
      }}
      onBlur={() => {
        setLeft(meant !== "" || typed.trim() === "");
        if (meant !== "") setTyped(meant);
      }}
      unit={value === "" ? undefined : weekday(value)}
      error={
        error ?? (!left && typed.trim().length > 9 && meant === "" ? "a day, like 2026-12-03" : undefined)
      }
    />
  );
}
