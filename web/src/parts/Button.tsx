import type { ButtonHTMLAttributes, ReactNode } from "react";

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { hint?: string; look?: "go" | "plain" | "quiet"; children: ReactNode };

const looks = {
  go: "bg-ink text-sheet border-ink font-semibold text-[17px] px-4",
  plain: "border-ink bg-sheet px-3",
  quiet: "border-hair text-quiet px-3",
};

/** A target of at least 44 px; hint names its key. */
export function Button({ hint, look = "plain", className = "", children, ...rest }: Props) {
  return (
    <button
      type="button"
      className={`min-h-11 border-[1.2px] flex items-center justify-between gap-3 disabled:opacity-50 ${looks[look]} ${className}`}
      aria-keyshortcuts={hint}
      {...rest}
    >
      <span>{children}</span>
      {hint && <kbd className="border-current! opacity-80">{hint}</kbd>}
    </button>
  );
}
