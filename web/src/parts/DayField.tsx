import { type ComponentProps, useState } from "react";
import { dayTyped, weekday } from "../model/moment";
import { Field } from "./Field";

type Props = Omit<ComponentProps<typeof Field>, "type" | "unit" | "inputMode">;

/** The day that is meant; what is none goes on as it was typed, to be refused by its name. */
const meaning = (text: string) => dayTyped(text) || text.trim();

/** A day, written as all days are: 2026-12-03. What is typed as people say it, fri or +5, becomes one. */
export function DayField({ value, onValue, error, ...rest }: Props) {
  const [typed, setTyped] = useState(value);
  const [here, setHere] = useState(false);
  const isDay = dayTyped(value) !== "";
  const wrong = value === "" || isDay || here ? undefined : "a day, like 2026-12-03";
  return (
    <Field
      placeholder="2026-12-03, fri, +5"
      {...rest}
      value={meaning(typed) === value ? typed : value} // picked elsewhere meanwhile
      onValue={(text) => {
        setTyped(text);
        onValue(meaning(text));
      }}
      onFocus={() => setHere(true)}
      onBlur={() => {
        setHere(false);
        setTyped(value);
      }}
      unit={isDay ? weekday(value) : undefined}
      error={error ?? wrong}
    />
  );
}
