import { type ComponentType, useEffect, useState } from "react";

/** A part of a screen that comes with its own file. */
export type Later<P> = ComponentType<P> & { fetch: () => Promise<unknown> };

/**
 * Draws a part as soon as its file is here, at once if it was fetched before.
 * React's lazy is not used for it: it holds back each reveal that follows
 * another within 300 ms, and a step is three parts one inside the other.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): Later<P> {
  let here: ComponentType<P> | undefined;
  const fetch = async () => (here ??= await load());
  function Part(props: P) {
    const [Drawn, draw] = useState(() => here);
    const [fault, fail] = useState<unknown>();
    useEffect(() => {
      if (!Drawn) void fetch().then((part) => draw(() => part), fail);
    }, [Drawn]);
    if (fault !== undefined) throw fault;
    return Drawn ? <Drawn {...props} /> : <p className="text-quiet py-6">One moment.</p>;
  }
  return Object.assign(Part, { fetch });
}
