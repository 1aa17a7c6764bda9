import { type RefObject, useId } from "react";

type Props = {
  box?: RefObject<HTMLTextAreaElement | null>;
  label: string;
  value: string;
  onValue: (v: string) => void;
  error?: string | undefined;
  rows: number;
  name?: string;
  autoFocus?: boolean;
};

/** Several lines to write in. Their fault stands right below them. */
export function Words({ box, label, value, onValue, error, rows, name, autoFocus = false }: Props) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small text-quiet">
        {label}
      </label>
      <textarea
        ref={box}
        id={id}
        name={name}
        value={value}
        rows={rows}
        autoFocus={autoFocus}
        onChange={(e) => onValue(e.target.value)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        className="w-full border border-ink bg-field px-3 py-2 text-line"
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="text-out text-note">
          {error}
        </p>
      )}
    </div>
  );
}
