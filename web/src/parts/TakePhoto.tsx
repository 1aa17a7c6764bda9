import { useRef, useState } from "react";
import { sendPhoto } from "../model/client";
import { Button } from "./Button";
import { Fault } from "./Fault";

/** A camera button; the picture is kept before the entry names it. */
export function TakePhoto({
  rebuild,
  label,
  onTaken,
}: {
  rebuild: string;
  label: string;
  onTaken: (id: string) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<{ busy: boolean; error: Error | null }>({ busy: false, error: null });
  const send = async (file: File | undefined) => {
    if (!file) return;
    setState({ busy: true, error: null });
    try {
      onTaken(await sendPhoto(rebuild, file));
      setState({ busy: false, error: null });
    } catch (e) {
      setState({ busy: false, error: e instanceof Error ? e : new Error(String(e)) });
    }
  };
  return (
    <div>
      <input
        ref={input}
        type="file"
        accept="image/*"
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => void send(e.target.files?.[0])}
      />
      <Button disabled={state.busy} onClick={() => input.current?.click()}>
        {state.busy ? "Sending the picture" : label}
      </Button>
      <Fault error={state.error} />
    </div>
  );
}
