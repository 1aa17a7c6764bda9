import { type ReactNode, useRef } from "react";
import { Button } from "./Button";

type Props = {
  /** What the file is, for a screen reader. */
  label: string;
  accept: string;
  look?: "plain" | "quiet";
  disabled?: boolean;
  /** It is what the hand is here for. */
  hand?: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
};

/** A button that asks for one file; the same file may be chosen again. */
export function FileButton({
  label,
  accept,
  look = "plain",
  disabled = false,
  hand,
  onFile,
  children,
}: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onFile(file);
        }}
      />
      <Button
        look={look}
        data-hand={hand || undefined}
        disabled={disabled}
        onClick={() => input.current?.click()}
      >
        {children}
      </Button>
    </>
  );
}
