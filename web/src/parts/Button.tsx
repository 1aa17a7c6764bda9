import { type ButtonHTMLAttributes, type MouseEvent, type ReactNode, useState } from "react";

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  hint?: string;
  look?: "go" | "plain" | "quiet";
  /** What has to be done first, said when somebody presses it while it is disabled. */
  why?: string;
  children: ReactNode;
};

const looks = {
  go: "bg-ink text-sheet border-ink font-semibold text-line px-4",
  plain: "border-ink bg-sheet px-3",
  quiet: "border-hair text-quiet px-3",
};

/**
 * A target of at least 44 px; hint names its key; one that writes has its act
 * for a name and what comes of it for a value. One that cannot be pressed
 * now keeps the focus, so that nobody has to find the way back to it.
 */
export function Button({
  hint,
  look = "plain",
  className = "",
  disabled = false,
  why,
  onClick,
  children,
  ...rest
}: Props) {
  const [asked, setAsked] = useState(false);
  const press = (e: MouseEvent<HTMLButtonElement>) => {
    setAsked(disabled);
    if (disabled) e.preventDefault();
    else onClick?.(e);
  };
  return (
    <button
      type="button"
      className={`min-h-11 min-w-11 border flex items-center justify-between gap-3 ${looks[look]} ${className}`}
      aria-keyshortcuts={hint}
      aria-disabled={disabled || undefined}
      title={disabled ? why : undefined}
      data-look={look}
      onClick={press}
      {...rest}
    >
      <span>
        {children}
        {disabled && asked && why && (
          <span role="status" className="block text-small text-undecided font-normal">
            {why}
          </span>
        )}
      </span>
      {hint && <kbd className="border-current! opacity-80">{hint}</kbd>}
    </button>
  );
}
