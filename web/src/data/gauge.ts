import { useEffect, useEffectEvent, useState } from "react";
import { believed } from "../model/json";
import type { components } from "../model/schema.gen";

export type Heard = components["schemas"]["Heard"];
export type Circle = NonNullable<Heard["circle"]>;

/** What a gauge reads now, the last of it for a drawing, and how its line stands. */
export type Following = {
  state: Heard["state"];
  says: string;
  now: string;
  trace: readonly number[];
};

/** Readings that are drawn. */
const drawn = 150;

const calling: Following = { state: "calling", says: "", now: "", trace: [] };

/** Our own line to the server is gone: what was taken stands; mostly the browser tries again. */
const cut = (source: EventSource) =>
  source.readyState === EventSource.CLOSED
    ? "it cannot be followed any more: look under Shop, Gauges"
    : "no connection to the server";

type Ears = { onSettled: (text: string) => void; onCircle: (circle: Circle) => void };

/** Follows a gauge that speaks, for as long as it is drawn. */
export function useFollowing(id: string, ears: Ears): Following {
  const [following, set] = useState(calling);
  const hear = useEffectEvent((h: Heard) => {
    set((was) => ({
      state: h.state,
      says: h.says ?? "",
      now: h.readings?.at(-1)?.text ?? (h.state === "lost" ? "" : was.now),
      trace: [...was.trace, ...(h.readings ?? []).map((r) => r.value)].slice(-drawn),
    }));
    if (h.circle) ears.onCircle(h.circle);
    if (h.settled) ears.onSettled(h.settled.text);
  });
  useEffect(() => {
    const source = new EventSource(`/api/v1/gauges/${encodeURIComponent(id)}/stream`);
    source.addEventListener("message", (e: MessageEvent<string>) =>
      hear(believed<Heard>(JSON.parse(e.data))),
    );
    source.addEventListener("error", () =>
      set((was) => ({ ...was, state: "lost", says: cut(source), now: "" })),
    );
    return () => {
      source.close();
      set(calling);
    };
  }, [id]);
  return following;
}
