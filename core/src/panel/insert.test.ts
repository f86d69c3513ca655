import fc from "fast-check";
import { contentHash } from "../design/hash";
import type { Design } from "../design/model";
import { EDITS } from "../edits";
import { ALL_DRAWN, runs } from "../test/runs";
import { DOT, enclosure, tiny } from "../test/tiny";
import { compute } from "./compute";
import type { InsertDevice } from "./edits";

const WIDTHS = [10, 18, 45] as const;
const part = (w: number) => ({
  ...DOT,
  number: `W${w}`,
  w,
  h: 80,
  pins: [],
  mounts: [{ kind: "rail" as const, datumY: 40 }],
});

/** A rail of 300 mm with bodies at their places, and -N, 18 wide, loose. */
const design = (on: readonly [tag: string, w: number, x: number][], more: Partial<Design> = {}): Design => ({
  ...tiny({ parts: WIDTHS.map(part), enclosures: [enclosure("+A1")], ducts: [] }),
  rails: [{ tag: "R1", face: "+A1/plate", x: 100, y: 500, run: "right", length: 300, part: "R" }],
  devices: [...on.map(([tag, w, x]) => ({ tag, part: `W${w}`, on: { rail: "R1", x } })), { tag: "-N", part: "W18" }],
  ...more,
});
const put = (d: Design, payload: Omit<InsertDevice, "device">) =>
  EDITS.apply(d, { kind: "insert", payload: { device: "-N", ...payload } });
const stand = (d: Design): string[] => d.devices.map((v) => `${v.tag} ${v.on?.x ?? "loose"}`);
const after = (d: Design, payload: Omit<InsertDevice, "device">): string[] | string => {
  const applied = put(d, payload);
  return applied.ok ? stand(applied.design) : applied.reason;
};

test("behind, before, with a gap: what stands in the way goes along as far as it must", () => {
  const d = design([["-A", 45, 0], ["-B", 45, 45], ["-C", 45, 120]]); // prettier-ignore
  // Behind -A: 45 to 63; -B goes to 63 and ends at 108, before -C at 120, which stays.
  expect(after(d, { beside: "-A", side: "behind" })).toEqual(["-A 0", "-B 63", "-C 120", "-N 45"]);
  // With 10 mm: 55 to 73, -B to 73 and 118: -C stays still. With 20: -B ends at 128, -C goes to 128.
  expect(after(d, { beside: "-A", side: "behind", gap: 10 })).toEqual(["-A 0", "-B 73", "-C 120", "-N 55"]);
  expect(after(d, { beside: "-A", side: "behind", gap: 20 })).toEqual(["-A 0", "-B 83", "-C 128", "-N 65"]);
  // Before -B it takes its place; the gap lies between the two.
  expect(after(d, { beside: "-B", side: "before", gap: 5 })).toEqual(["-A 0", "-B 68", "-C 120", "-N 45"]);
  expect(after(d, { beside: "-C", side: "behind" })).toEqual(["-A 0", "-B 45", "-C 120", "-N 165"]);
});

test("no room, a strip in the way, no rail: it is said, and nothing is moved", () => {
  const full = design([["-A", 45, 0], ["-B", 45, 255]]); // prettier-ignore
  expect(after(full, { beside: "-B", side: "behind" })).toMatch(/^R1 has no room for -N there: 18 mm are missing/);
  expect(after(full, { beside: "-B", side: "before" })).toMatch(/18 mm are missing/);
  const strip = design([["-A", 45, 0], ["-T", 10, 0]], { strips: [{ tag: "-X1", rail: "R1", members: ["-T"], at: 50 }] }); // prettier-ignore
  expect(after(strip, { beside: "-A", side: "behind" })).toMatch(/^strip -X1, which is laid on R1, stands in the way/);
  expect(after(strip, { beside: "-T", side: "behind" })).toMatch(/^-T stands on strip -X1/);
  const faced = { ...full, devices: full.devices.map((v) => (v.tag === "-A" ? { ...v, on: { face: "+A1/plate", x: 0, y: 0 } } : v)) }; // prettier-ignore
  expect(after(faced, { beside: "-A", side: "behind" })).toBe("-A stands on no rail");
  expect(after(full, { beside: "-N", side: "behind" })).toBe("-N cannot stand beside itself");
});

test("inserted anywhere: side by side, nothing in each other, nothing off the rail, in the order of before; taken back it is as it was", () => {
  let [fits, not, pushed] = [0, 0, 0];
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...WIDTHS), fc.integer({ min: 0, max: 8 })), {
        minLength: 1,
        maxLength: 14,
        size: "max",
      }),
      fc.nat(13),
      fc.constantFrom("before" as const, "behind" as const),
      fc.constantFrom(0, 0, 7),
      (list, nth, side, gap) => {
        let x = 0;
        const on = list.flatMap(([w, free], i): [string, number, number][] => {
          const at = x + free;
          x = at + w;
          return x <= 300 ? [[`-D${i}`, w, at]] : [];
        });
        if (on.length === 0) return;
        const d = design(on);
        const beside = on[nth % on.length]![0];
        const hash = contentHash(d);
        const applied = put(d, { beside, side, gap });
        expect(contentHash(d)).toBe(hash);
        if (!applied.ok) {
          // Nothing but the end of the rail keeps it out.
          expect(applied.reason).toContain("has no room");
          not++;
          return;
        }
        fits++;
        const panel = compute(applied.design);
        expect(panel.clashes).toEqual([]);
        expect(panel.open).toEqual([]);
        const order = [...applied.design.devices].sort((a, b) => a.on!.x! - b.on!.x!).map((v) => v.tag);
        expect(order.filter((tag) => tag !== "-N")).toEqual(on.map(([tag]) => tag));
        expect(order.indexOf("-N") - order.indexOf(beside)).toBe(side === "behind" ? 1 : -1);
        if (on.some(([tag, , at]) => applied.design.devices.find((v) => v.tag === tag)!.on!.x !== at)) pushed++;
      },
    ),
    { numRuns: runs(400), seed: 282 },
  );
  if (ALL_DRAWN) expect([fits > 150, not > 20, pushed > 60]).toEqual([true, true, true]);
});
