import { stood } from "./client";
import { believed } from "../model/json";
import { toTabs } from "../model/tabs";

/** What the server tells: a rebuild has a new entry; without a rebuild, something may have been missed. */
export type Told = { rebuild?: string; seq: number; step: string };

const path = "/api/v1/board/events";
const ears = new Set<(t: Told) => void>();
let close: (() => void) | undefined;

/**
 * What other tabs told before the first page of this one listened: pages are asked for ahead of
 * their screens, and an answer may be overtaken in between.
 */
let early: Told[] | undefined = [];
const channel = new BroadcastChannel("handwerk.events");
channel.addEventListener("message", (e: MessageEvent<Told>) => {
  early?.push(e.data);
  hear(e.data);
});

/**
 * Hears of changes. One stream serves all tabs, for a browser keeps few
 * connections open: the tab that holds the lock reads it and passes on what it
 * hears; when that tab closes, the next takes over.
 */
export function listen(ear: (t: Told) => void): () => void {
  ears.add(ear);
  for (const t of early ?? []) ear(t);
  setTimeout(() => (early = undefined)); // all that is drawn with the first page has heard it
  close ??= open();
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
  toTabs(channel, t);
}

function read(): () => void {
  let source: EventSource;
  let missed = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const begin = () => {
    source = new EventSource(path);
    source.addEventListener("message", (e: MessageEvent<string>) => tell(believed<Told>(JSON.parse(e.data))));
    source.addEventListener("error", () => {
      missed = true;
      // The browser tries again by itself, but not after an answer that is no stream.
      if (source.readyState === EventSource.CLOSED) timer = setTimeout(begin, againAfter);
    });
    // What was read before the stream was open may have been overtaken meanwhile.
    source.addEventListener("stands", (e: MessageEvent<string>) => {
      if (missed || e.data !== stood) tell({ seq: 0, step: "" });
      missed = false;
    });
  };
  begin();
  return () => {
    clearTimeout(timer);
    source.close();
  };
}
