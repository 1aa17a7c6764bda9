import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Draft, Written } from "../model/types";
import { inTurn, toTabs } from "./tabs";

/**
 * The outbox keeps what was said until the server has acknowledged it. Each
 * entry carries its own key, so that sending it twice makes one entry; it
 * outlives a reload, a dropped network and a restarted server. One tab sends at
 * a time, in the order in which things were said, and what one person said
 * never goes out under another's name.
 */
export type Waiting = { key: string; by: string; rebuild: string; step: string; title: string; draft: Draft };

/** What the server did not take after all; kept until the person has noted it. */
export type Refused = { key: string; by: string; text: string };

interface Schema extends DBSchema {
  waiting: { key: number; value: Waiting };
  refused: { key: string; value: Refused };
}

/** How an attempt ended. Away: nobody answered, it may go through later. */
export type Attempt = { is: "taken"; entry: Written } | { is: "refused"; error: unknown } | { is: "away" };

type Options = {
  name?: string;
  post: (w: Waiting) => Promise<Attempt>;
  /** A refusal in words, naming the step, the place and the value. */
  words: (w: Waiting, error: unknown) => string;
};

/** What this tab put on record, by its name there; a screen may have read the record before that. */
export type Landed = Waiting & { id: string };

/**
 * The entries that wait, oldest first, what landed lately, and the refusals, of all tabs; away:
 * nobody answered this tab last time.
 */
export type Seen = { waiting: Waiting[]; landed: Landed[]; refused: Refused[]; away: boolean };

/** More is never on its way to a screen at once. */
const mostLanded = 300;

type Ended = { key: string; attempt: Attempt };

export class Outbox {
  private readonly db: Promise<IDBPDatabase<Schema>>;
  private readonly channel: BroadcastChannel;
  private readonly listeners = new Set<() => void>();
  private readonly awaited = new Map<string, (a: Attempt) => void>();
  private seen: Seen = { waiting: [], landed: [], refused: [], away: false };
  private away = false;
  /** Said, and not in the database yet: a hand is faster than a disk. */
  private readonly fresh = new Map<string, Waiting>();
  private landed: Landed[] = [];
  /** What entries of this tab are called on record, by their keys. */
  private readonly names = new Map<string, string>();

  constructor(private readonly o: Options) {
    const name = o.name ?? "handwerk";
    this.db = openDB<Schema>(name, 1, {
      upgrade(db) {
        db.createObjectStore("waiting", { autoIncrement: true });
        db.createObjectStore("refused", { keyPath: "key" });
      },
    });
    this.channel = new BroadcastChannel(`${name}.outbox`);
    this.channel.addEventListener("message", (e: MessageEvent<Ended | "changed">) => {
      if (e.data !== "changed") this.awaited.get(e.data.key)?.(e.data.attempt);
      void this.look();
    });
    void this.look();
  }

  list = () => this.seen;

  subscribe = (tell: () => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  /**
   * Says one entry: it stands in the list before the next key comes, is kept,
   * then sent after all that wait before it. Undefined means that it waits; a
   * refusal is thrown.
   */
  async say(said: Waiting): Promise<Written | undefined> {
    const w = this.named(said);
    this.fresh.set(w.key, w);
    this.tell({ ...this.seen, waiting: [...this.seen.waiting, w] });
    await (await this.db).add("waiting", w);
    this.fresh.delete(w.key);
    const ended = new Promise<Attempt>((tell) => this.awaited.set(w.key, tell));
    await this.changed();
    const waits = () => this.awaited.get(w.key)?.({ is: "away" });
    this.drain(w.by).then(waits, waits);
    const attempt = await ended;
    this.awaited.delete(w.key);
    if (attempt.is === "refused") throw attempt.error;
    return attempt.is === "taken" ? attempt.entry : undefined;
  }

  /** Sends everything a person has waiting, in order, until nobody answers. True when something went. */
  drain(by: string): Promise<boolean> {
    return inTurn("handwerk.outbox", async () => {
      let went = false;
      for (;;) {
        const next = await this.oldest(by);
        if (!next) return went;
        const attempt = await this.o.post(next.w);
        this.away = attempt.is === "away";
        if (attempt.is === "away") {
          await this.look();
          return went;
        }
        await this.end(next.n, next.w, attempt);
        went = true;
      }
    });
  }

  /** What corrects an entry that landed meanwhile names it as the record does. */
  private named(w: Waiting): Waiting {
    const { supersedes } = w.draft;
    return supersedes ? { ...w, draft: { ...w.draft, supersedes: this.nameOf(supersedes) } } : w;
  }

  nameOf = (key: string) => this.names.get(key) ?? key;

  private tell(seen: Seen) {
    this.seen = seen;
    for (const tell of this.listeners) tell();
  }

  /** Keeps a refusal for one who went on before it came. */
  async keepRefusal(w: Waiting, error: unknown) {
    await (await this.db).put("refused", this.refusal(w, error));
    await this.changed();
  }

  private refusal = (w: Waiting, error: unknown): Refused => ({
    key: w.key,
    by: w.by,
    text: this.o.words(w, error),
  });

  /** The person has read a refusal. */
  async note(key: string) {
    await (await this.db).delete("refused", key);
    await this.changed();
  }

  private async oldest(by: string) {
    const db = await this.db;
    for (let c = await db.transaction("waiting").store.openCursor(); c; c = await c.continue()) {
      if (c.value.by === by) return { n: c.key, w: c.value };
    }
    return undefined;
  }

  /**
   * Takes an entry out. In the same transaction a refusal is kept for one who is
   * no longer looking, and what corrects the entry learns its name on record.
   */
  private async end(n: number, w: Waiting, attempt: Exclude<Attempt, { is: "away" }>) {
    const tx = (await this.db).transaction(["waiting", "refused"], "readwrite");
    const waiting = tx.objectStore("waiting");
    const awaited = this.awaited.get(w.key);
    await waiting.delete(n);
    if (attempt.is === "refused") {
      if (!awaited) await tx.objectStore("refused").put(this.refusal(w, attempt.error));
    } else {
      for (let c = await waiting.openCursor(); c; c = await c.continue()) {
        if (c.value.draft.supersedes !== w.key) continue;
        await c.update({ ...c.value, draft: { ...c.value.draft, supersedes: attempt.entry.id } });
      }
    }
    await tx.done;
    if (attempt.is === "taken" && awaited) {
      this.names.set(w.key, attempt.entry.id);
      this.landed = [...this.landed.slice(-mostLanded), { ...w, id: attempt.entry.id }];
    }
    if (attempt.is === "taken") toTabs<Ended>(this.channel, { key: w.key, attempt });
    await this.changed();
    awaited?.(attempt);
  }

  private async changed() {
    toTabs(this.channel, "changed");
    await this.look();
  }

  private async look() {
    const db = await this.db;
    const [waiting, refused] = await Promise.all([db.getAll("waiting"), db.getAll("refused")]);
    const kept = new Set(waiting.map((w) => w.key));
    const fresh = [...this.fresh.values()].filter((w) => !kept.has(w.key));
    this.tell({ waiting: [...waiting, ...fresh], landed: this.landed, refused, away: this.away });
  }
}
