import { daysUntil, formatDate, formatLength, formatSize, formatTotal } from "./format";

test("lengths carry their unit and keep what was measured", () => {
  expect(formatLength(1385, { length: "mm" })).toBe("1,385 mm");
  expect(formatLength(147.5, { length: "mm" })).toBe("147.5 mm");
  expect(formatLength(1385, { length: "in" })).toBe("54.53 in");
  expect(formatTotal(541_740, { length: "mm" })).toBe("541.7 m");
  expect(formatTotal(541_740, { length: "in" })).toBe("1,777 ft");
});

test("a gauge is near, and says so", () => {
  expect(formatSize(2.5, { size: "mm2" })).toBe("2.5 mm²");
  expect(formatSize(2.5, { size: "awg" })).toBe("≈ AWG 13");
});

test("days until a date do not depend on the hour", () => {
  expect(daysUntil("2027-02-19", new Date(2027, 1, 18, 23, 59))).toBe(1);
  expect(daysUntil("2027-02-19", new Date(2027, 1, 19, 0, 1))).toBe(0);
  expect(daysUntil("2027-02-19", new Date(2027, 2, 1))).toBe(-10);
  expect(formatDate("2027-02-19")).toBe("19 Feb 2027");
});
