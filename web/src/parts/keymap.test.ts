import { describe, expect, it } from "vitest";
import { keymap, keyOf, meant } from "./keymap";

const known = (key: string) => (Object.values(keymap) as string[]).includes(key) || /^[1-9]$/.test(key);

describe("the keys", () => {
  it("have one meaning each", () => {
    const all = Object.values(keymap);
    expect(all.filter((k, i) => all.indexOf(k) !== i)).toEqual([]);
    expect(keyOf("goOn")).toBe("G");
    expect(keyOf("3")).toBe("3");
  });

  it("go by the letter the layout writes, else by the one the key bears", () => {
    for (const [key, code, is] of [
      ["g", "KeyG", "G"],
      ["a", "KeyQ", "A"], // a French keyboard
      ["q", "KeyA", "Q"], // nothing: it writes another letter of ours
      ["п", "KeyG", "G"], // a Cyrillic one
      ["γ", "KeyG", "G"], // a Greek one
      ["&", "Digit1", "1"], // a French one, where figures want Shift
      ["2", "Numpad2", "2"],
      ["/", "Digit7", "/"], // a German one
    ] as const)
      expect(meant({ key, code }, known), `${key} on ${code}`).toBe(is);
  });
});
