import { type InputHTMLAttributes, useId, useRef } from "react";
import { type KeyName, keyOf } from "./keymap";
import { useKey } from "./keys";

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value"> & {
  label: string;
  value: string;
  onValue: (v: string) => void;
  error?: string | undefined;
  numeric?: boolean;
  unit?: string | undefined;
  /** The key that leads here. */
  hotkey?: KeyName;
};

/** One line to type on. Its fault stands right below it. */
export function Field({
  label,
  value,
  onValue,
  error,
  numeric,
  unit,
  hotkey,
  className = "",
  ...rest
}: Props) {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  useKey(hotkey ?? "0", `to ${label.toLowerCase()}`, () => input.current?.focus(), hotkey !== undefined);
  return (
    <div className={className}>
      <label htmlFor={id} className="block text-small text-quiet">
        {label}
        {hotkey && <kbd className="ml-2">{keyOf(hotkey)}</kbd>}
      </label>
      <div className="flex items-center border border-ink bg-field focus-within:outline-[3px] outline-blue -outline-offset-[1px]">
        <input
          ref={input}
          id={id}
          value={value}
          onChange={(e) => onValue(e.target.value)}
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          autoComplete="off"
          className={`w-full min-w-0 min-h-11 px-3 bg-transparent focus-visible:outline-none ${numeric ? "font-mono font-medium text-title" : "text-line"}`}
          {...rest}
        />
        {unit && <span className="pr-3 font-mono text-quiet whitespace-nowrap">{unit}</span>}
      </div>
      {error && (
        <p id={`${id}-error`} role="alert" className="text-out text-note mt-1">
          {error}
        </p>
      )}
    </div>
  );
}
