import { expect, test } from "vitest";
import { chainOf, chainWords, offered, sooner, toggled } from "./links";

const part = (id: string, verdict = "") => ({ part: id, name: id, ...(verdict && { verdict }) });

test("a part goes to the end of the chain, and out again", () => {
  const one = toggled([], part("washer"));
  const two = toggled(one, part("sleeve"));
  expect(two.map((l) => l.name)).toEqual(["washer", "sleeve"]);
  expect(toggled(two, part("washer")).map((l) => l.name)).toEqual(["sleeve"]);
  expect(sooner(two, 1).map((l) => l.name)).toEqual(["sleeve", "washer"]);
  expect(sooner(two, 0)).toEqual(two);
});

test("a chain is said as a sentence", () => {
  expect(chainWords([])).toBe("");
  expect(chainWords([{ name: "Washer", how: "left out" }])).toBe("First: Washer (left out).");
  expect(chainWords([{ name: "Washer" }, { name: "Sleeve" }, { name: "Fork" }])).toBe(
    "First: Washer. That damaged Sleeve, Fork.",
  );
});

test("what was kept while typing is read, and nothing else", () => {
  expect(chainOf('[{"name":"a","how":"b"},{"how":"c"},3]')).toEqual([{ name: "a", how: "b" }]);
  expect(chainOf("")).toEqual([]);
  expect(chainOf('{"name":"a"}')).toEqual([]);
});

test("the damaged parts are offered first", () => {
  const parts = [part("a", "replace"), part("b", "reuse"), part("c")];
  expect(offered(parts, false).map((p) => p.part)).toEqual(["a"]);
  expect(offered(parts, true)).toHaveLength(3);
  expect(offered([part("x"), part("y", "reuse")], false)).toHaveLength(2);
});
