import { ApiError, client, unwrap } from "./client";
import type { Draft, Entry } from "./types";

/**
 * The outbox keeps what was said until the server has acknowledged it. Each
 * entry carries its own key, so that sending it twice makes one entry; it
 * outlives a reload, a dropped network and a restarted server. What one person
 * said never goes out under another's name.
 */
export type Waiting = { key: string; by: string; rebuild: string; step: string; draft: Draft };

const place = "handwerk.outbox";
const listeners = new Set<() => void>();
let cached: Waiting[] | undefined;

function read(): Waiting[] {
  if (cached) return cached;
  try {
    cached = JSON.parse(localStorage.getItem(place) ?? "[]") as Waiting[];
  } catch {
    cached = [];
  }
  return cached;
}

function write(list: Waiting[]) {
  cached = list;
  localStorage.setItem(place, JSON.stringify(list));
  for (const tell of listeners) tell();
}

export const outbox = {
  list: read,
  subscribe(tell: () => void) {
    listeners.add(tell);
    return () => listeners.delete(tell);
  },
  add(w: Waiting) {
    write([...read(), w]);
  },
  drop(key: string) {
    write(read().filter((w) => w.key !== key));
  },
};

async function post(w: Waiting): Promise<Entry> {
  return unwrap(
    client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
      params: { path: { id: w.rebuild, step: w.step }, header: { "Idempotency-Key": w.key } as never },
      headers: { "Idempotency-Key": w.key },
      body: w.draft as never,
    }),
  );
}

/** A refusal is final; anything else may go through later. */
const isFinal = (e: unknown) => e instanceof ApiError && e.status < 500 && e.status !== 401 && e.status !== 429;

/**
 * Sends one entry. When the server does not answer, the entry stays in the
 * outbox and undefined is given; a refusal takes it out and is thrown.
 */
export async function send(w: Waiting): Promise<Entry | undefined> {
  outbox.add(w);
  return attempt(w);
}

async function attempt(w: Waiting): Promise<Entry | undefined> {
  try {
    const entry = await post(w);
    outbox.drop(w.key);
    return entry;
  } catch (e) {
    if (!isFinal(e)) return undefined;
    outbox.drop(w.key);
    throw e;
  }
}

/** Tries everything that a person has waiting, in order; tells of refusals. */
export async function flush(by: string, refused: (w: Waiting, e: unknown) => void): Promise<boolean> {
  let sent = false;
  for (const w of read().filter((x) => x.by === by)) {
    try {
      if ((await attempt(w)) === undefined) return sent;
      sent = true;
    } catch (e) {
      refused(w, e);
    }
  }
  return sent;
}
