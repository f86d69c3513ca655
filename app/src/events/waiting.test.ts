import { clear, createStore, entries } from "idb-keyval";
import { waitingOf } from "./waiting";

interface Note {
  id: string;
  text: string;
}

const on = (key: string) => waitingOf<Note>(key, (n) => n.id);
const note = (id: string, text = id): Note => ({ id, text });
const disk = () => entries<string, { one: Note }>(createStore("gray-bench", "waiting"));
const until = async (is: () => boolean | Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 2_000 && !(await is()); i++) await new Promise((next) => setTimeout(next, 1));
};
const ids = (list: readonly Note[]): string => list.map((n) => n.id).join();

beforeEach(async () => {
  localStorage.clear();
  await clear(createStore("gray-bench", "waiting"));
});

test("what waits is there when the page comes again, in its order; what was sent is gone", async () => {
  const one = on("a");
  await one.read;
  one.add([note("1"), note("2")]);
  one.add([note("3")]);
  expect(ids(one.now())).toBe("1,2,3");
  one.drop((n) => n.id === "2");
  await until(async () => (await disk()).length === 2);
  const again = on("a");
  expect(again.now()).toEqual([]);
  await again.read;
  expect(ids(again.now())).toBe("1,3");
  // Another list does not know of it.
  const other = on("a b");
  await other.read;
  expect(other.now()).toEqual([]);
});

test("two windows lose nothing of each other, and know what the other has sent", async () => {
  const [left, right] = [on("w"), on("w")];
  await Promise.all([left.read, right.read]);
  left.add([note("l1")]);
  right.add([note("r1")]);
  left.add([note("l2")]);
  await until(async () => (await disk()).length === 3);
  await until(() => left.now().length === 3 && right.now().length === 3);
  expect([...left.now()].map((n) => n.id).sort()).toEqual(["l1", "l2", "r1"]);
  right.drop((n) => n.id === "l1");
  await until(() => left.now().length === 2);
  // The left one is closed: what it had is still there, what was sent is not.
  const next = on("w");
  await next.read;
  expect([...next.now()].map((n) => n.id).sort()).toEqual(["l2", "r1"]);
});

test("what a program before this one kept is taken over once; what is dropped while it is read does not come back", async () => {
  localStorage.setItem("old", JSON.stringify([note("1"), note("2")]));
  const one = on("old");
  await one.read;
  expect(ids(one.now())).toBe("1,2");
  expect(localStorage.getItem("old")).toBeNull();
  const early = on("old");
  early.add([note("2", "again")]);
  early.drop((n) => n.id === "2");
  await early.read;
  expect(ids(early.now())).toBe("1");
  localStorage.setItem("bad", "{");
  const bad = on("bad");
  await bad.read;
  expect(bad.now()).toEqual([]);
});
