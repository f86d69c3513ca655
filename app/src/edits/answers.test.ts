import type { Ask } from "@gray-bench/core/design/open-points";
import type { Settings } from "../kit/settings";
import { answer, textNow } from "./answers";

const MM: Settings = { length: "mm", size: "mm2", temperature: "C", light: "day", name: "" };
const IN: Settings = { ...MM, length: "in", size: "awg" };
const ask = (more: Partial<Ask>): Ask => ({ field: "f", label: "F", as: "text", ...more });

test("what is left as it stands is no part of the edit, in either unit", () => {
  for (const settings of [MM, IN]) {
    const length = ask({ as: "length", now: 100 });
    expect(answer(length, undefined, settings)).toEqual({ ok: true, value: 100, set: false });
    expect(answer(length, textNow(length, settings), settings)).toEqual({ ok: true, value: 100, set: false });
  }
  expect(textNow(ask({ as: "length", now: 100 }), IN)).toBe("3.937");
});

test("what is typed takes the unit beside the field, or the one that is written", () => {
  const length = ask({ as: "length", now: 100 });
  expect(answer(length, "2", MM)).toEqual({ ok: true, value: 2, set: true });
  expect(answer(length, "2", IN)).toEqual({ ok: true, value: 50.8, set: true });
  expect(answer(length, "2 mm", IN)).toEqual({ ok: true, value: 2, set: true });
  expect(answer(ask({ as: "size" }), "14 AWG", MM)).toEqual({ ok: true, value: 2.081, set: true });
  expect(answer(ask({ as: "count" }), "2.5", MM)).toEqual({ ok: false, reason: "Write a whole number, at least 1." });
  expect(answer(ask({ as: "amount" }), "-1", MM)).toEqual({ ok: false, reason: "Write a number, at least 0." });
});

test("the same value typed in another unit changes nothing", () => {
  expect(answer(ask({ as: "length", now: 25.4 }), "1 in", MM)).toEqual({ ok: true, value: 25.4, set: false });
});

test("empty: refused where it is needed, left out where it is not, taken away where something stood", () => {
  expect(answer(ask({}), "  ", MM)).toEqual({ ok: false, reason: "This is needed." });
  expect(answer(ask({ now: "x" }), "", MM)).toEqual({ ok: false, reason: "This is needed." });
  expect(answer(ask({ optional: true }), "", MM)).toEqual({ ok: true, value: undefined, set: false });
  expect(answer(ask({ optional: true, now: "x" }), "", MM)).toEqual({ ok: true, value: null, set: true });
});
