import { type RefObject, useEffect, useState } from "react";
import { Button } from "../parts/Button";

/** A4 within its margins, in CSS pixels, and how wide a bench is laid out on it. */
const page = { width: 700, height: 900, laid: 900 };

/** Hairlines do not shrink with the rest: how often what is still too high is made smaller. */
const tries = 6;

/** A bench prints on one page: laid out in one column and made as small as that needs. */
function useOnePage(sheet: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const fit = () => {
      const s = sheet.current;
      if (!s) return;
      s.dataset["printed"] = "";
      s.style.width = `${page.laid}px`;
      let zoom = page.width / page.laid;
      for (let i = 0; i < tries; i++) {
        s.style.zoom = `${zoom}`;
        const high = s.getBoundingClientRect().height;
        if (high <= page.height) return;
        zoom *= page.height / high;
      }
    };
    const back = () => {
      const s = sheet.current;
      if (!s) return;
      delete s.dataset["printed"];
      s.style.width = s.style.zoom = "";
    };
    addEventListener("beforeprint", fit);
    addEventListener("afterprint", back);
    return () => {
      removeEventListener("beforeprint", fit);
      removeEventListener("afterprint", back);
    };
  }, [sheet]);
}

/** Copies a text; by the old way too, where a page is not served over a safe line. */
async function copied(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    const held = document.createElement("textarea");
    held.value = text;
    document.body.append(held);
    held.select();
    const done = document.execCommand("copy");
    held.remove();
    return done;
  }
}

type Props = { title: string; sheet: RefObject<HTMLElement | null>; means: RefObject<HTMLElement | null> };

/** What one takes from a bench: its result as text with its address, or on paper. */
export function TakeAway({ title, sheet, means }: Props) {
  useOnePage(sheet);
  const [says, say] = useState("");
  const copy = async () => {
    const text = [title, means.current?.innerText ?? "", location.href].join("\n\n");
    say((await copied(text)) ? "Copied" : "This browser does not let it be copied");
  };
  return (
    <div className="no-print flex flex-wrap items-center gap-2.5">
      <Button look="quiet" name="copy" onClick={() => void copy()}>
        Copy as text
      </Button>
      <Button look="quiet" name="print" onClick={() => print()}>
        Print
      </Button>
      <span role="status" className="text-note text-quiet">
        {says}
      </span>
    </div>
  );
}
