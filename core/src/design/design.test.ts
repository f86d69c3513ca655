import fc from "fast-check";
import { awgMm2, endTreatment, nearestAwg, outerOf, resolve } from "./conductors";
import { findEntries, searchEntries, searchPattern } from "./find";
import { facesOf, onBody, bodyAt, toFace, toSpace, turnExit } from "./geometry";
import { holds } from "./lookup";
import type { Turn } from "./model";
import { rulesFor, SHOP_RULES } from "./rules";
import { enclosure, tiny, dot, wire } from "../test/tiny";

describe("faces", () => {
  const faces = facesOf({
    enclosures: [enclosure("+A1", { neighbourRight: "+A2" }), enclosure("+A2")],
    faces: [],
  });
  const coordinate = fc.double({ min: -3000, max: 3000, noNaN: true });

  test("going to space and back is nothing", () => {
    fc.assert(
      fc.property(fc.constantFrom(...faces.values()), coordinate, coordinate, coordinate, (face, x, y, z) => {
        const back = toFace(face, toSpace(face, { x, y, z }));
        expect([back.x, back.y, back.z].map((v, i) => Math.abs(v - [x, y, z][i]!) < 1e-6)).toEqual([true, true, true]);
      }),
      { seed: 3 },
    );
  });

  test("z points into the enclosure from every face but the plate, whose z points to the door", () => {
    const middle = { x: 1100, y: 1100, z: 250 };
    for (const kind of ["door", "left", "right", "roof", "base", "rear"])
      expect(toFace(faces.get(`+A1/${kind}`)!, middle).z).toBeGreaterThan(0);
    expect(toFace(faces.get("+A1/plate")!, { ...middle, z: 0 }).z).toBe(400);
  });

  test("each face is seen from outside: its right is to the right", () => {
    // Front corner of the left side lies at the right end of the left face, and so on.
    expect(toFace(faces.get("+A1/left")!, { x: 0, y: 0, z: 0 })).toMatchObject({ x: 500, y: 0 });
    expect(toFace(faces.get("+A1/right")!, { x: 2200, y: 0, z: 0 })).toMatchObject({ x: 0, y: 0 });
    expect(toFace(faces.get("+A1/rear")!, { x: 0, y: 0, z: 500 })).toMatchObject({ x: 2200, y: 0 });
  });

  test("a neighbour stands to the right in the same space", () => {
    expect(toSpace(faces.get("+A2/plate")!, { x: 0, y: 0, z: 0 })).toEqual({ x: 2300, y: 100, z: 400 });
  });
});

test("four quarter turns bring a pin back, and each keeps its distance from the middle", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 0, max: 300 }),
      fc.integer({ min: 0, max: 300 }),
      (w, h, x, y) => {
        const at = (turn: Turn) => onBody(bodyAt({ x: 0, y: 0 }, w, h, turn, 0), { x, y, z: 0 });
        const far = (p: { x: number; y: number }) => p.x * p.x + p.y * p.y;
        expect(far(at(90))).toBeCloseTo(far(at(0)), 6);
        expect([at(180).x + at(0).x, at(180).y + at(0).y]).toEqual([0, 0]);
        expect([at(90).x, at(90).y]).toEqual([-at(0).y + 0, at(0).x]);
      },
    ),
    { seed: 5 },
  );
  expect(turnExit("up", 90)).toBe("left");
  expect(turnExit("out", 270)).toBe("out");
});

describe("conductors", () => {
  test("colour and size: wire, then net, then the job's class, then the shop's", () => {
    const shop = { earth: { colour: "GNYE" as const } };
    const job = { earth: { colour: "BK" as const } };
    const w = { number: "1" };
    const net = { name: "n", class: "earth" as const };
    expect(resolve("colour", { ...w, colour: "RD" }, { ...net, colour: "BU" }, undefined, job, shop)).toEqual({
      value: "RD",
      origin: "wire",
    });
    expect(resolve("colour", w, { ...net, colour: "BU" }, undefined, job, shop)).toEqual({
      value: "BU",
      origin: "net",
    });
    expect(resolve("colour", w, net, undefined, job, shop)).toEqual({ value: "BK", origin: "job class" });
    expect(resolve("colour", w, net, undefined, {}, shop)).toEqual({ value: "GNYE", origin: "shop class" });
    expect(resolve("sizeMm2", w, net, undefined, {}, shop)).toBeNull();
  });

  test("outer diameters: own, table, next larger, beyond the table", () => {
    const rules = rulesFor(SHOP_RULES, {});
    expect(outerOf(1.5, undefined, rules)).toMatchObject({ mm: 3.4, fallback: false });
    expect(outerOf(2, undefined, rules)).toMatchObject({ mm: 4.1, fallback: true });
    expect(outerOf(380, undefined, rules)).toMatchObject({ mm: 36.4, fallback: true });
  });

  test("gauges by ASTM B258", () => {
    expect(awgMm2(14)).toBeCloseTo(2.08, 2);
    expect(awgMm2(-1)).toBeCloseTo(67.4, 1);
    expect([nearestAwg(2.5), nearestAwg(0.5), nearestAwg(70)]).toEqual(["13", "20", "2/0"]);
  });

  test("end treatment: first rule that fits; none is null, never a silent bare end", () => {
    const rules = rulesFor(SHOP_RULES, {});
    const ask = (clamp: string | undefined, strand: "fine" | "solid" | "stranded", twin: boolean, sizeMm2: number) =>
      endTreatment(rules, { clamp, strand, twin, sizeMm2 });
    expect(ask("screw", "fine", false, 1.5)).toBe("ferrule");
    expect(ask("push-in", "fine", true, 1.5)).toBe("twin ferrule");
    expect(ask("stud", "fine", false, 6)).toBe("ring");
    expect(ask("screw", "solid", false, 1.5)).toBe("bare");
    expect(ask("push-in", "stranded", false, 1.5)).toBeNull();
    expect(ask(undefined, "fine", false, 1.5)).toBeNull();
  });
});

test("conditions hold only with the chosen option", () => {
  const chosen = new Map([["lift", "fitted"]]);
  expect([
    holds(undefined, chosen),
    holds({ lift: "fitted" }, chosen),
    holds({ lift: ["no", "fitted"] }, chosen),
    holds({ lift: "no" }, chosen),
    holds({ other: "fitted" }, chosen),
  ]).toEqual([true, true, true, false, false]);
});

describe("search", () => {
  const entries = searchEntries(
    tiny({
      ducts: [{}],
      devices: ["-K1", "-K11", "-K12", "-S1"].map((t) => dot(t, 0, 0)),
      wires: [wire("-K1", "-K11", { number: "214" }), wire("-K1", "-S1", { number: "14" })],
    }),
  );
  const find = (q: string): string[] => findEntries(entries, q, 20).map((e) => e.of);

  test("the name itself comes first, then names that begin with it", () => {
    expect(find("-K1").slice(0, 3)).toEqual(["-K1", "-K11", "-K12"]);
    expect(find("k1")[0]).toBe("-K1");
    expect(find("14").slice(0, 2)).toEqual(["14", "214"]);
  });

  test("wildcards fit the whole name, with or without its sign", () => {
    expect(find("-K1?")).toEqual(["-K11", "-K12"]);
    expect(find("k*2")).toEqual(["-K12"]);
    expect(find("2*4")).toEqual(["214"]);
  });

  test("signs of patterns are taken as they are", () => {
    expect(searchPattern("a.(b").test("xa.(by")).toBe(true);
    expect(find("[")).toEqual([]);
  });
});
