import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { DOT, enclosure, tiny } from "../test/tiny";
import { compute } from "./compute";
import { movedPlace, stepOf, waysOf } from "./nudge";
import { usageOf } from "./usage";

const RAILED = { ...DOT, number: "M", w: 50, h: 80, weightKg: 0.25, mounts: [{ kind: "rail" as const, datumY: 40 }] };

/** A plate of 600 × 800 mm with a duct of 600 × 40, a rail of 400 and one upright of 300; a door. */
const design = (devices: Design["devices"]): Design => ({
  ...tiny({
    parts: [
      RAILED,
      { ...DOT, number: "HEAD", w: 100, h: 100, weightKg: 2, slots: [{ name: "s", x: 10, y: 10, z: 5 }] },
    ],
    enclosures: [
      enclosure("+A1", {
        w: 700,
        h: 900,
        plate: { w: 600, h: 800, setback: 400, thickness: 3, material: "aluminium" },
      }),
    ],
    ducts: [{ x: 0, y: 0, length: 600 }],
  }),
  rails: [
    { tag: "R1", face: "+A1/plate", x: 50, y: 300, run: "right", length: 400, part: "R" },
    { tag: "R2", face: "+A1/plate", x: 500, y: 300, run: "up", length: 300, part: "R" },
  ],
  devices,
});
const used = (devices: Design["devices"]) => {
  const d = design(devices);
  return usageOf(compute(d), d, { doorMostKg: 40 });
};

test("what is free of a rail: all of it, between bodies, and nothing where they stand beyond its end", () => {
  const on = (tag: string, rail: string, x: number) => ({ tag, part: "M", on: { rail, x } });
  expect(used([]).rails.map((r) => [r.rail, r.lengthMm, r.freeMm, r.longestMm, r.longestAtMm])).toEqual([
    ["R1", 400, 400, 400, 0],
    ["R2", 300, 300, 300, 0],
  ]);
  // 0 to 50, 50 to 100 and 220 to 270 are taken: 120 and 130 are left. Upright a body reaches as far along as it is wide.
  const { rails } = used([on("-A", "R1", 0), on("-B", "R1", 50), on("-C", "R1", 220), on("-D", "R2", 270)]);
  expect(rails.map((r) => [r.freeMm, r.longestMm, r.longestAtMm])).toEqual([
    [250, 130, 270],
    [270, 270, 0],
  ]);
  // Two in each other take what they take together.
  expect(used([on("-A", "R1", 100), on("-B", "R1", 120)]).rails[0]).toMatchObject({
    freeMm: 330,
    longestMm: 230,
    longestAtMm: 170,
  });
});

test("of a face: what bodies and ducts take, what it weighs, and what a door carries", () => {
  const { faces } = used([
    { tag: "-H", part: "HEAD", on: { face: "+A1/plate", x: 200, y: 600 } },
    { tag: "-M", part: "M", on: { slot: "-H", name: "s" } },
    { tag: "-P", part: "P", on: { face: "+A1/plate", x: 10, y: 700 } },
    { tag: "-S", part: "HEAD", on: { face: "+A1/door", x: 100, y: 100 } },
  ]);
  // 100 × 100 + 10 × 10 + 600 × 40; what sits in -H weighs, and takes no room of its own.
  expect(faces).toEqual([
    { face: "+A1/plate", areaM2: 0.48, takenM2: 0.0341, kg: 2.25, unweighed: ["-P"], carriesKg: null },
    { face: "+A1/door", areaM2: 0.63, takenM2: 0.01, kg: 2, unweighed: [], carriesKg: 40 },
  ]);
});

test("what a door carries is said by its enclosure, by the job, or by the shop", () => {
  const d = design([{ tag: "-S", part: "HEAD", on: { face: "+A1/door", x: 100, y: 100 } }]);
  const carries = (other: Design) =>
    usageOf(compute(other), other, { doorMostKg: 40 }).faces.find((f) => f.face === "+A1/door")!.carriesKg;
  const job = { ...d, rules: { heat: { doorMostKg: 30 } } };
  const own = { ...job, enclosures: job.enclosures.map((e) => ({ ...e, heat: { doorMostKg: 20 } })) };
  expect([carries(d), carries(job), carries(own)]).toEqual([40, 30, 20]);
});

test("a device is moved along its rail, on its face in both ways, and not by itself where a strip or a slot holds it", () => {
  const d: Design = {
    ...design([
      { tag: "-A", part: "M", on: { rail: "R1", x: 10 } },
      { tag: "-B", part: "M", on: { rail: "R2", x: 10 } },
      { tag: "-H", part: "HEAD", on: { face: "+A1/plate", x: 200.1, y: 600 } },
      { tag: "-M", part: "M", on: { slot: "-H", name: "s" } },
      { tag: "-L", part: "M" },
      { tag: "-T", part: "M", on: { rail: "R1", x: 100 } },
      { tag: "-N", part: "M", on: { rail: "R9", x: 0 } },
    ]),
    strips: [{ tag: "-X1", rail: "R1", members: ["-T"], at: 100 }],
  };
  const look = lookUp(d);
  const of = (tag: string) => look.devices.get(tag)!;
  expect(d.devices.map(({ tag }) => waysOf(of(tag), look, d))).toEqual([
    ["left", "right"],
    ["up", "down"],
    ["left", "right", "up", "down"],
    [],
    [],
    [],
    [],
  ]);
  expect(movedPlace(of("-A"), ...stepOf("left", 5), look)).toEqual({ rail: "R1", x: 5 });
  expect(movedPlace(of("-B"), ...stepOf("down", 5), look)).toEqual({ rail: "R2", x: 5 });
  expect(movedPlace(of("-H"), 0.2, -10, look)).toEqual({ face: "+A1/plate", x: 200.3, y: 590 });
  expect(movedPlace(of("-A"), 1, 1, look)).toBeNull();
});
