import fc from "fast-check";
import { facesOf } from "../design/geometry";
import { enclosure } from "../test/tiny";
import type { PanelResult, PlacedDevice } from "./result";
import { ARRANGEMENTS, deviceAt, layOut } from "./sheet";

const device = (tag: string, face: string, x: number, y: number, w: number, h: number): PlacedDevice =>
  ({ tag, face, outline: { x, y, w, h } }) as PlacedDevice;

const panels = fc
  .record({
    count: fc.integer({ min: 1, max: 5 }),
    used: fc.array(fc.tuple(fc.nat(4), fc.constantFrom("plate", "door", "left", "right", "roof", "base", "rear")), {
      maxLength: 12,
    }),
    hinges: fc.array(fc.constantFrom("left" as const, "right" as const), { minLength: 5, maxLength: 5 }),
  })
  .map(({ count, used, hinges }) => {
    const enclosures = Array.from({ length: count }, (_, i) => enclosure(`+A${i}`));
    const devices = used.map(([e, kind], i) => device(`-K${i}`, `+A${e % count}/${kind}`, 0, 0, 1, 1));
    const panel = {
      faces: [...facesOf({ enclosures, faces: [] }).values()],
      devices,
      rails: [],
      ducts: [],
      hung: [],
      loose: [],
      clashes: [],
      open: [],
    } as PanelResult;
    return { panel, hinges: new Map(enclosures.map((e, i) => [e.tag, hinges[i]!])) };
  });

const ways = fc.record(
  { arrangement: fc.constantFrom(...ARRANGEMENTS), aspect: fc.constantFrom(0.4, 1, 1.6, 3) },
  { requiredKeys: [] },
);

test("every face that carries something is on the sheet once, none overlap, all lie within", () => {
  fc.assert(
    fc.property(panels, ways, ({ panel, hinges }, how) => {
      const sheet = layOut(panel, hinges, how);
      const ids = sheet.faces.map((f) => f.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const d of panel.devices) expect(ids).toContain(d.face);
      // Listed by enclosure, of each the plate, the door, then the others, wherever they are drawn.
      const kinds = "plate door left right roof base rear".split(" ");
      const listed = panel.faces.map((f) => f.enclosure).filter((e, i, all) => all.indexOf(e) === i);
      const wanted = listed.flatMap((e) => kinds.map((k) => `${e}/${k}`)).filter((id) => ids.includes(id));
      expect(ids).toEqual(wanted);
      for (const a of sheet.faces) {
        expect(a.x >= 0 && a.y >= 0 && a.x + a.w <= sheet.w && a.y + a.h <= sheet.h).toBe(true);
        for (const b of sheet.faces) {
          if (a.id < b.id)
            expect(a.x >= b.x + b.w || b.x >= a.x + a.w || a.y >= b.y + b.h || b.y >= a.y + a.h).toBe(true);
        }
      }
    }),
    { seed: 11, numRuns: 200 },
  );
});

test("plates of a row stand on one line, the door on its hinge side", () => {
  const enclosures = [enclosure("+A1"), enclosure("+A2")];
  const devices = [device("-1", "+A1/door", 0, 0, 1, 1), device("-2", "+A2/door", 0, 0, 1, 1)];
  const panel = {
    faces: [...facesOf({ enclosures, faces: [] }).values()],
    devices,
    rails: [],
    ducts: [],
    hung: [],
    loose: [],
    clashes: [],
    open: [],
  } as PanelResult;
  const { faces } = layOut(
    panel,
    new Map([
      ["+A1", "left"],
      ["+A2", "right"],
    ]),
  );
  expect([...faces].sort((a, b) => a.x - b.x).map((f) => f.id)).toEqual([
    "+A1/door",
    "+A1/plate",
    "+A2/plate",
    "+A2/door",
  ]);
  expect(new Set(faces.map((f) => f.y)).size).toBe(1);
});

/** How large a sheet is drawn in a view of this width to height. */
const scale = ({ w, h }: { w: number; h: number }, aspect: number): number => Math.min(aspect / w, 1 / h);

test("rows are taken only where they let the faces be drawn larger, and then they are", () => {
  let rows = 0;
  fc.assert(
    fc.property(panels, ways, ({ panel, hinges }, { aspect = 1, ...how }) => {
      const one = layOut(panel, hinges, how);
      const best = layOut(panel, hinges, { ...how, aspect });
      expect(scale(best, aspect)).toBeGreaterThanOrEqual(scale(one, aspect));
      expect(best.faces.map((f) => f.id).sort()).toEqual(one.faces.map((f) => f.id).sort());
      if (scale(best, aspect) > scale(one, aspect)) rows++;
    }),
    { seed: 12, numRuns: 100 },
  );
  expect(rows).toBeGreaterThan(20);
});

test("as they stand: plates and doors of a row keep the places they have to each other", () => {
  const enclosures = [
    { ...enclosure("+A1"), neighbourRight: "+A2" },
    { ...enclosure("+A2"), w: 400 },
  ];
  const devices = [device("-1", "+A1/door", 0, 0, 1, 1), device("-2", "+A2/door", 0, 0, 1, 1)];
  const faces = facesOf({ enclosures, faces: [] });
  const panel = {
    faces: [...faces.values()],
    devices,
    rails: [],
    ducts: [],
    hung: [],
    loose: [],
    clashes: [],
    open: [],
  } as PanelResult;
  const sheet = layOut(panel, new Map(), { arrangement: "standing" });
  for (const kind of ["plate", "door"]) {
    const [a, b] = ["+A1", "+A2"].map((tag) => sheet.faces.find((f) => f.id === `${tag}/${kind}`)!);
    const [one, two] = ["+A1", "+A2"].map((tag) => faces.get(`${tag}/${kind}`)!.origin);
    expect([b!.x - a!.x, b!.y - a!.y]).toEqual([two!.x - one!.x, two!.y - one!.y]);
  }
});

test("a chosen set of faces stands side by side, whether anything is on them or not", () => {
  const enclosures = [enclosure("+A1"), enclosure("+A2")];
  const panel = { faces: [...facesOf({ enclosures, faces: [] }).values()], devices: [], rails: [], ducts: [] };
  const only = new Set(["+A1/roof", "+A2/door"]);
  const sheet = layOut({ ...panel, hung: [], loose: [], clashes: [], open: [] }, new Map(), { only });
  expect(sheet.faces.map((f) => f.id)).toEqual(["+A1/roof", "+A2/door"]);
  expect(new Set(sheet.faces.map((f) => f.y)).size).toBe(1);
});

test("of two bodies under a point the smaller one is meant, on its own face only", () => {
  const all = [
    device("-HEAD", "f", 0, 0, 100, 100),
    device("-MOD", "f", 20, 20, 20, 40),
    device("-ELSE", "g", 0, 0, 500, 500),
  ];
  const at = (x: number, y: number): string | undefined => deviceAt(all, "f", { x, y })?.tag;
  expect([at(30, 30), at(5, 5), at(20, 20), at(101, 5)]).toEqual(["-MOD", "-HEAD", "-MOD", undefined]);
});

test("no enclosure, no faces: an empty sheet", () => {
  expect(
    layOut({ faces: [], devices: [], rails: [], ducts: [], hung: [], loose: [], clashes: [], open: [] }, new Map()),
  ).toEqual({
    w: 0,
    h: 0,
    faces: [],
  });
});
