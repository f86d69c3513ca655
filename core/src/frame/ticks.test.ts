import fc from "fast-check";
import { ticksOf, type TickEvent } from "./ticks";

const tick = (id: string, minute: number, what: TickEvent["what"], more: Partial<TickEvent> = {}): TickEvent => ({
  ...{ id, what, list: "strip -X2", item: "a", who: "Ida" },
  at: `2026-11-30T10:0${minute}:00Z`,
  ...more,
});

test("what was said last of an item counts, whenever it came, and in whatever order", () => {
  const events = [
    tick("1", 1, "ticked"),
    tick("2", 3, "unticked", { who: "Bo" }),
    tick("3", 2, "ticked", { who: "late" }),
    tick("4", 2, "ticked", { item: "b" }),
    tick("6", 5, "unticked", { item: "c" }),
    tick("7", 5, "ticked", { item: "c", who: "same moment" }),
    tick("8", 9, "ticked", { list: "strip -X1" }),
  ];
  const is = {
    a: { done: false, who: "Bo", at: "2026-11-30T10:03:00Z" },
    b: { done: true, who: "Ida", at: "2026-11-30T10:02:00Z" },
    c: { done: true, who: "same moment", at: "2026-11-30T10:05:00Z" },
  };
  fc.assert(
    fc.property(fc.shuffledSubarray(events, { minLength: events.length }), fc.subarray(events), (order, again) => {
      expect(Object.fromEntries(ticksOf("strip -X2", [...order, ...again]))).toEqual(is);
    }),
    { seed: 5, numRuns: 60 },
  );
  expect(ticksOf("strip -X9", events).size).toBe(0);
});
