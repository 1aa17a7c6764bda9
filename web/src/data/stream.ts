import { stood } from "./client";
import { believed } from "../model/json";
import { toTabs } from "./tabs";

/** What the server tells: a rebuild has a new entry; without a rebuild, something may have been missed. */
export type Told = { rebuild?: string; seq: number; step: string };

/** What tabs say to each other: news for all or for one, or how far a tab had read when it began to listen. */
type Said = (Told & { to?: string }) | { asks: string; stood: string | undefined };

const path = "/api/v1/board/events";
const ears = new Set<(t: Told) => void>();
let close: (() => void) | undefined;
const me = Math.random().toString(36).slice(2);

/** How far the tab that reads the stream has heard; undefined in the others. */
let heard: string | undefined;

/**
 * What other tabs told before the first page of this one listened: pages are asked for ahead of
 * their screens, and an answer may be overtaken in between.
 */
let early: Told[] | undefined = [];
const channel = new BroadcastChannel("handwerk.events");
channel.addEventListener("message", ({ data }: MessageEvent<Said>) => {
  if ("asks" in data) {
    if (heard !== undefined && heard !== data.stood) toTabs<Said>(channel, { ...anything, to: data.asks });
    return;
  }
  if (data.to !== undefined && data.to !== me) return;
  early?.push(data);
  hear(data);
});

/** Something may have been missed. */
const anything: Told = { seq: 0, step: "" };

/**
 * Hears of changes. One stream serves all tabs, for a browser keeps few
 * connections open: the tab that holds the lock reads it and passes on what it
 * hears; when that tab closes, the next takes over.
 */
export function listen(ear: (t: Told) => void): () => void {
  ears.add(ear);
  for (const t of early ?? []) ear(t);
  setTimeout(() => (early = undefined)); // all that is drawn with the first page has heard it
  if (!close) {
    close = open();
    // A page is asked for before its script can listen: the tab that reads the stream says whether it is behind.
    toTabs<Said>(channel, { asks: me, stood });
  }
  return () => {
    ears.delete(ear);
    if (ears.size > 0) return;
    close?.();
    close = undefined;
  };
}

function hear(t: Told) {
  for (const ear of ears) ear(t);
}

function open(): () => void {
  const ended = new AbortController();
  const until = new Promise<void>((done) => ended.signal.addEventListener("abort", () => done()));
  const lead = async () => {
    const stop = read();
    await until;
    stop();
  };
  if (globalThis.navigator?.locks)
    navigator.locks.request("handwerk.stream", { signal: ended.signal }, lead).catch(() => undefined);
  else void lead();
  return () => ended.abort();
}

const againAfter = 3000;

function tell(t: Told) {
  hear(t);
  toTabs<Said>(channel, t);
}

function read(): () => void {
  let source: EventSource;
  let missed = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const begin = () => {
    source = new EventSource(path);
    source.addEventListener("message", (e: MessageEvent<string>) => {
      heard = e.lastEventId;
      tell(believed<Told>(JSON.parse(e.data)));
    });
    source.addEventListener("error", () => {
      missed = true;
      // The browser tries again by itself, but not after an answer that is no stream.
      if (source.readyState === EventSource.CLOSED) timer = setTimeout(begin, againAfter);
    });
    // What was read before the stream was open may have been overtaken meanwhile.
    source.addEventListener("stands", (e: MessageEvent<string>) => {
      heard = e.data;
      if (missed || e.data !== stood) hear(anything);
      toTabs<Said>(channel, anything); // each of them may have read before
      missed = false;
    });
  };
  begin();
  return () => {
    clearTimeout(timer);
    source.close();
    heard = undefined;
  };
}
