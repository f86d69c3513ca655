import fc from "fast-check";
import { formatTemperature } from "./format";
import { number, readCount, readLength, readSize, readTemperature, readWatts } from "./quantity";

const value = (q: { ok: boolean; value?: number; reason?: string }) => (q.ok ? q.value : q.reason);

test("numbers: decimal, with a comma, fractions, mixed", () => {
  expect(["12", "12.5", "12,5", ".5", "1/2", "1 1/2", "-3", "-1/4"].map(number)).toEqual([
    12, 12.5, 12.5, 0.5, 0.5, 1.5, -3, -0.25,
  ]);
  expect(["", "x", "1/0", "1 2", "1.2.3", "--1"].map(number)).toEqual([null, null, null, null, null, null]);
});

test("a bare length takes the unit beside the field, another unit may be written", () => {
  const mm = { length: "mm" as const };
  const inch = { length: "in" as const };
  expect(["12", "12 mm", "1.2cm", "0.5 m", "1/2 in", '1 1/2"', "2 ft"].map((t) => value(readLength(t, mm)))).toEqual([
    12, 12, 12, 500, 12.7, 38.1, 609.6,
  ]);
  expect(["12", "12 mm", "1/16"].map((t) => value(readLength(t, inch)))).toEqual([304.8, 12, 1.5875]);
  expect(value(readLength("12 kg", mm))).toBe('"kg" is no unit of length here. Write mm, cm, m, in or ft.');
  expect(value(readLength("about", mm))).toContain("Write a number");
});

test("cross-sections in mm² or gauges", () => {
  const mm2 = { size: "mm2" as const };
  const awg = { size: "awg" as const };
  expect(["1.5", "1.5 mm2", "2.5mm²", "14 AWG", "awg 14", "2/0 AWG"].map((t) => value(readSize(t, mm2)))).toEqual([
    1.5, 1.5, 2.5, 2.081, 2.081, 67.433,
  ]);
  expect(["14", "1/0", "1.5 mm2", "1.5"].map((t) => value(readSize(t, awg)))).toEqual([2.081, 53.476, 1.5, 1.5]);
  expect(["0", "1001", "41 AWG", "x AWG", "2 kg", "x"].map((t) => readSize(t, mm2).ok)).toEqual(Array(6).fill(false));
});

test("watts and counts", () => {
  expect(["12", "12 W", "0.4 kW", "500mW"].map((t) => value(readWatts(t)))).toEqual([12, 12, 400, 0.5]);
  expect(["-1", "x", "3 V"].map((t) => readWatts(t).ok)).toEqual([false, false, false]);
  expect([value(readCount("10")), readCount("0").ok, readCount("1.5").ok, readCount("x").ok]).toEqual([
    10,
    false,
    false,
    false,
  ]);
});

test("temperatures with either unit are the same; what cannot be is refused", () => {
  const read = (text: string): number | string => {
    const got = readTemperature(text, { temperature: "C" });
    return got.ok ? got.value : got.reason;
  };
  expect(["35", "35 °C", "35C", "95 °F", "95f", "-8", "17.6 F", "-40 F"].map(read)).toEqual([
    35, 35, 35, 35, 35, -8, -8, -40,
  ]);
  expect([read("warm"), read("30 K"), read("-300 °C")]).toEqual([
    expect.stringContaining("Write a temperature"),
    expect.stringContaining("no unit of temperature"),
    expect.stringContaining("Nothing is colder"),
  ]);
});

test("a temperature shown in either unit, typed in again with or without it, is the same temperature", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -600, max: 900 }).map((n) => n / 10),
      fc.constantFrom<"C" | "F">("C", "F"),
      fc.constantFrom<"C" | "F">("C", "F"),
      (celsius, shown, typedUnder) => {
        const text = formatTemperature(celsius, { temperature: shown });
        const withUnit = readTemperature(text, { temperature: typedUnder });
        // To a tenth of what is shown, whatever the setting where it is typed.
        expect(withUnit.ok && Math.abs(withUnit.value - celsius)).toBeLessThanOrEqual(0.051);
        const bare = readTemperature(text.replace(/ °.$/, ""), { temperature: shown });
        expect(bare.ok && Math.abs(bare.value - celsius)).toBeLessThanOrEqual(0.051);
      },
    ),
    { seed: 12 },
  );
});
