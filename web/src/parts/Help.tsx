import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "./Button";
import { useKeyList } from "./keys";

export default function Help({ onClose }: { onClose: () => void }) {
  const keys = useKeyList();
  return (
    <Dialog open onClose={onClose} className="relative z-10">
      <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="bg-sheet border-[1.5px] border-ink p-6 w-[440px] max-w-full">
          <DialogTitle className="text-[22px] font-semibold">Keys that work here</DialogTitle>
          <p className="text-quiet mb-3">Inside a field hold Alt as well.</p>
          <dl className="mb-4">
            {[...keys, { key: "?", says: "this list" }, { key: "Esc", says: "close" }].map((k) => (
              <div key={k.key + k.says} className="flex gap-4 border-b border-hair py-1.5">
                <dt className="w-16"><kbd>{k.key}</kbd></dt>
                <dd>{k.says}</dd>
              </div>
            ))}
          </dl>
          <Button onClick={onClose} look="go" className="w-full" autoFocus>Close</Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
