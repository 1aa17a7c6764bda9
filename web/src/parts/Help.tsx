import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState } from "react";
import { Button } from "./Button";
import { lettersOff, turnLetters, useKeyList } from "./keys";

export default function Help({ onClose }: { onClose: () => void }) {
  const keys = useKeyList();
  const [off, setOff] = useState(lettersOff());
  const turn = () => {
    turnLetters(!off);
    setOff(!off);
  };
  return (
    <Dialog open onClose={onClose} className="relative z-10">
      <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="bg-sheet border border-ink p-6 w-[440px] max-w-full">
          <DialogTitle className="text-title font-semibold">Keys on this page</DialogTitle>
          <p className="text-quiet mb-3">
            {off ? "Hold Alt with each key." : "While typing in a field, hold Alt as well."}
          </p>
          <dl className="mb-4">
            {[...keys, { key: "?", says: "this list" }, { key: "Esc", says: "close" }].map((k) => (
              <div key={k.key + k.says} className="flex gap-4 border-b border-hair py-1.5">
                <dt className="w-16">
                  <kbd>{k.key}</kbd>
                </dt>
                <dd>{k.says}</dd>
              </div>
            ))}
          </dl>
          <label className="flex gap-3 items-center min-h-11 mb-3">
            <input type="checkbox" className="size-4 accent-blue" checked={off} onChange={turn} />
            Use letter keys only with Alt
          </label>
          <Button onClick={onClose} look="go" className="w-full" autoFocus>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
