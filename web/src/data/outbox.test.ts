import "fake-indexeddb/auto";
import { afterEach, describe, expect, it } from "vitest";
import type { Written } from "../model/types";
import { type Attempt, Outbox, type Waiting } from "./outbox";
import { refusalInWords } from "./refusal";

let n = 0;
const entry = (w: Waiting) => ({ is: "taken", entry: { id: w.key, now: {} } as Written }) satisfies Attempt;
const say = (key: string, more: Partial<Waiting> = {}): Waiting => ({
  key,
  by: "ilva",
  rebuild: "r",
  step: "s",
  title: "Bolts",
  draft: { act: "note", note: key },
  ...more,
});

/** Tabs of one browser on one database, and the server they all send to. */
function browser(answer: (w: Waiting) => Promise<Attempt> | Attempt) {
  const name = `t${++n}`;
  const got: string[] = [];
  const server = { answer };
  const tab = () =>
    new Outbox({
      name,
      words: refusalInWords,
      post: async (w) => {
        const a = await server.answer(w);
        if (a.is !== "away") got.push(w.key);
        return a;
      },
    });
  return { tab, got, server };
}

const until = async (holds: () => boolean) => {
  for (let i = 0; i < 500 && !holds(); i++) await new Promise((r) => setTimeout(r, 5));
  expect(holds()).toBe(true);
};

describe("the outbox", () => {
  it("gives the entry back when it is taken", async () => {
    const { tab } = browser(entry);
    const one = tab();
    expect(await one.say(say("a"))).toEqual({ id: "a", now: {} });
    expect(one.list().waiting).toEqual([]);
  });

  it("keeps what nobody answers, over a reload, and sends it in order", async () => {
    const { tab, got, server } = browser(() => ({ is: "away" }));
    const one = tab();
    expect(await one.say(say("a"))).toBeUndefined();
    expect(await one.say(say("b"))).toBeUndefined();
    expect(one.list().away).toBe(true);
    const reloaded = tab();
    await until(() => reloaded.list().waiting.length === 2);
    server.answer = entry;
    expect(await reloaded.say(say("c"))).toEqual({ id: "c", now: {} });
    expect(got).toEqual(["a", "b", "c"]);
    expect(reloaded.list()).toMatchObject({ waiting: [], refused: [], away: false });
  });

  it("loses nothing of two tabs and lets none overtake", async () => {
    const { tab, got } = browser(async (w) => {
      await new Promise((r) => setTimeout(r, w.key === "1" ? 30 : 1));
      return entry(w);
    });
    const [one, two] = [tab(), tab()];
    const first = one.say(say("1"));
    await until(() => one.list().waiting.length === 1);
    await Promise.all([first, two.say(say("2")), one.say(say("3")), two.say(say("4"))]);
    expect(got[0]).toBe("1");
    expect(got.toSorted()).toEqual(["1", "2", "3", "4"]);
    await until(() => one.list().waiting.length === 0 && two.list().waiting.length === 0);
  });

  it("never sends one person's under another's name", async () => {
    const { tab, got, server } = browser(() => ({ is: "away" }));
    const one = tab();
    await one.say(say("hers"));
    server.answer = entry;
    await one.say(say("his", { by: "odo" }));
    expect(got).toEqual(["his"]);
    expect(one.list().waiting.map((w) => w.key)).toEqual(["hers"]);
  });

  it("corrects what waited by its name on record", async () => {
    const { tab, server } = browser(() => ({ is: "away" }));
    const one = tab();
    await one.say(say("slip"));
    await one.say(say("right", { draft: { act: "reading", value: "24 thou", supersedes: "slip" } }));
    const sent: unknown[] = [];
    server.answer = (w) => {
      sent.push(w.draft.supersedes);
      return { is: "taken", entry: { id: `on-record-${w.key}` } as Written };
    };
    await one.drain("ilva");
    expect(sent).toEqual([undefined, "on-record-slip"]);
  });

  it("leaves nobody waiting when sending fails in itself", async () => {
    const { tab, server } = browser(() => {
      throw new Error("broken");
    });
    const one = tab();
    expect(await one.say(say("a"))).toBeUndefined();
    server.answer = entry;
    await one.drain("ilva");
    expect(one.list().waiting).toEqual([]);
  });

  it("throws a refusal to whoever waits for it, and goes on behind it", async () => {
    const refused: Attempt = { is: "refused", error: new Error("24 is too much") };
    const { tab, got } = browser((w) => (w.key === "bad" ? refused : entry(w)));
    const one = tab();
    await expect(one.say(say("bad"))).rejects.toThrow("24 is too much");
    expect(await one.say(say("good"))).toEqual({ id: "good", now: {} });
    expect(got).toEqual(["bad", "good"]);
    expect(one.list().refused).toEqual([]);
  });

  it("keeps a refusal for one who went on before it came", async () => {
    const { tab } = browser(entry);
    const one = tab();
    await one.keepRefusal(
      say("gone", { draft: { act: "outcome", item: "seal", outcome: "dry" } }),
      new Error("look again"),
    );
    expect(one.list().refused).toEqual([{ key: "gone", by: "ilva", text: "Bolts, seal, dry: look again" }]);
  });

  it("keeps a later refusal with step, place and value until it is noted", async () => {
    const { tab, server } = browser(() => ({ is: "away" }));
    const one = tab();
    await one.say(
      say("late", { draft: { act: "torqued", bolt: 7, pass: 2, value: { value: 24, unit: "N·m" } } }),
    );
    server.answer = () => ({ is: "refused", error: new Error("somebody was first") });
    await one.drain("ilva");
    const again = tab();
    await until(() => again.list().refused.length === 1);
    expect(again.list().refused[0]?.text).toBe("Bolts, bolt 7, pass 2, 24 N·m: somebody was first");
    await again.note("late");
    await until(() => one.list().refused.length === 0);
  });
});

afterEach(() => expect.hasAssertions());
