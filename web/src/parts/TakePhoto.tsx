import { useState } from "react";
import { sendPhoto } from "../data/rebuilds";
import { Fault } from "./Fault";
import { FileButton } from "./FileButton";

/** A camera button; the picture is kept before the entry names it. */
export function TakePhoto({
  rebuild,
  label,
  hand,
  onTaken,
}: {
  rebuild: string;
  label: string;
  hand?: boolean;
  onTaken: (id: string) => void;
}) {
  const [state, setState] = useState<{ busy: boolean; error: Error | null }>({ busy: false, error: null });
  const send = async (file: File) => {
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
      <FileButton
        label={label}
        hand={hand === true}
        accept="image/*"
        disabled={state.busy}
        onFile={(file) => void send(file)}
      >
        {state.busy ? "Sending the picture" : label}
      </FileButton>
      <Fault error={state.error} />
    </div>
  );
}
