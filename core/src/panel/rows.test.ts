import fc from "fast-check";
import { contentHash } from "../design/hash";
import type { Design, Part } from "../design/model";
import { EDITS } from "../edits";
import { ALL_DRAWN, runs } from "../test/runs";
import { DOT, enclosure, tiny } from "../test/tiny";
import { barActs, addBarActs } from "./bar-acts";
import { compute } from "./compute";
import { manyDevicesActs } from "./device-acts";
import { shaped } from "../frame/act";

const WIDTHS = [10, 18, 45] as const;
const part = (w: number, more: Partial<Part> = {}): Part => ({
  ...DOT,
  number: `W${w}`,
  w,
  h: 80,
  pins: [],
  mounts: [{ kind: "rail", datumY: 40 }, { kind: "plate" }],
  ...more,
});
const WARM = part(45, { number: "WARM", clearances: { left: 4, right: 12 } });
const rail = (tag: string, y: number, run: "right" | "up" = "right") => ({ tag, face: "+A1/plate", x: 100, y, run, length: 200, part: "R" }); // prettier-ignore

/** Two rails of 200 mm, 400 mm apart, with bodies; `null`: loose. */
const design = (
  on: readonly [tag: string, part: string, rail: string | null, x?: number][],
  more: Partial<Design> = {},
): Design => ({
  ...tiny({ parts: [...WIDTHS.map((w) => part(w)), WARM], enclosures: [enclosure("+A1")], ducts: [] }),
  rails: [rail("R1", 700), rail("R2", 300)],
  devices: on.map(([tag, number, r, x]) => ({ tag, part: number, ...(r === null ? {} : { on: { rail: r, x: x! } }) })),
  ...more,
});
const stand = (d: Design): string[] =>
  d.devices.map(({ tag, on }) => `${tag} ${on ? `${on.rail ?? on.face} ${[on.x, on.y].filter((v) => v !== undefined).join()}` : "loose"}`); // prettier-ignore
const after = (d: Design, kind: string, payload: object): string[] | string => {
  const applied = EDITS.apply(d, { kind, payload });
  return applied.ok ? stand(applied.design) : applied.reason;
};

test("lined up: behind what stands there, gaps as asked or as parts ask, the next rail where one is full", () => {
  const d = design([["-A", "W45", "R1", 10], ["-B", "W45", null], ["-C", "WARM", null], ["-D", "WARM", null], ["-E", "W18", null]]); // prettier-ignore
  // -A ends at 55. -B there; -C asks 4 on its left: 104 to 149; -D asks 12 of -C: 161 to 206 is beyond 200, so R2.
  expect(after(d, "line up", { devices: ["-B", "-C", "-D", "-E"], rails: ["R1", "R2"] })).toEqual([
    "-A R1 10", "-B R1 55", "-C R1 104", "-D R2 0", "-E R2 57",
  ]); // prettier-ignore
  expect(after(d, "line up", { devices: ["-E", "-B"], rails: ["R1"], gap: 20 })).toEqual([
    "-A R1 10", "-B R1 113", "-C loose", "-D loose", "-E R1 75",
  ]); // prettier-ignore
  // What is lined up leaves the place where it stood.
  expect(after(d, "line up", { devices: ["-B", "-A"], rails: ["R1"] })).toContain("-A R1 45");
  expect(after(d, "line up", { devices: ["-B", "-C", "-D", "-E"], rails: ["R1"] })).toBe(
    "R1 has no room for -D, -E: -D is 45 mm wide, and 51 mm are free behind what stands on R1",
  );
  expect(after(d, "line up", { devices: ["-B", "-B"], rails: ["R1"] })).toBe("-B is named twice");
  expect(after(d, "line up", { devices: ["-B"], rails: ["R1", "R1"] })).toBe("rail R1 is named twice");
  // On an upright rail the parts stand a quarter turn further: what they ask on their left lies below, on their right above.
  const upright = { ...d, rails: [rail("R1", 100, "up")], devices: d.devices.slice(1) };
  expect(after(upright, "line up", { devices: ["-B", "-C", "-E"], rails: ["R1"] })).toEqual(["-B R1 0", "-C R1 49", "-D loose", "-E R1 106"]); // prettier-ignore
});

test("gaps closed and made even: strips that are laid stay, too little room is said", () => {
  const d = design([["-A", "W10", "R1", 20], ["-B", "W45", "R1", 60], ["-C", "W18", "R1", 150]]); // prettier-ignore
  expect(after(d, "close gaps", { rail: "R1" })).toEqual(["-A R1 20", "-B R1 30", "-C R1 75"]);
  expect(after(d, "close gaps", { rail: "R1", gap: 5 })).toEqual(["-A R1 20", "-B R1 35", "-C R1 85"]);
  expect(after(d, "close gaps", { rail: "R1", gap: 60 })).toBe(
    "R1 is too short for that: 13 mm are missing at its end",
  );
  // From 30 to 150 there are 120, less 45: 37.5 on each side.
  expect(after(d, "even out", { rail: "R1" })).toEqual(["-A R1 20", "-B R1 67.5", "-C R1 150"]);
  expect(after(d, "even out", { rail: "R2" })).toBe("fewer than three things stand on R2");
  const strip = design(
    [["-A", "W10", "R1", 0], ["-B", "W10", "R1", 40], ["-T", "W18", "R1", 0], ["-C", "W10", "R1", 190]],
    { strips: [{ tag: "-X1", rail: "R1", members: ["-T"], at: 60 }], parts: [...design([]).parts, { ...part(6), number: "STOP", accessory: "end stop" }] },
  ); // prettier-ignore
  // End stops of 6 mm stand on both sides of -T: the strip reaches from 60 to 90, and there -C comes.
  expect(after(strip, "close gaps", { rail: "R1" })).toEqual(["-A R1 0", "-B R1 10", "-T R1 0", "-C R1 90"]);
  expect(after(strip, "close gaps", { rail: "R1", gap: 25 })).toMatch(
    /^strip -X1, which is laid on R1, stands in the way/,
  );
  // Before the strip 10 to 60 less 10; behind it nothing lies between.
  expect(after(strip, "even out", { rail: "R1" })).toContain("-B R1 30");
  const tight = design([["-A", "W45", "R1", 0], ["-B", "W45", "R1", 20], ["-C", "W45", "R1", 60]]); // prettier-ignore
  expect(after(tight, "even out", { rail: "R1" })).toBe("30 mm are missing between -A and -C on R1");
});

test("put in line and exchanged, as by hand", () => {
  const face = (tag: string, number: string, x: number, y: number, turn?: 90) => ({ tag, part: number, on: { face: "+A1/plate", x, y }, ...(turn ? { turn } : {}) }); // prettier-ignore
  const d = { ...design([]), devices: [face("-A", "W10", 100, 100), face("-B", "W45", 300, 160), face("-C", "W18", 500, 40, 90)] }; // prettier-ignore
  expect(after(d, "align", { devices: ["-A", "-B"], by: "right" })).toContain("-B +A1/plate 65,160");
  expect(after(d, "align", { devices: ["-B", "-A"], by: "middle up" })).toContain("-A +A1/plate 100,160");
  // -C is 18 × 80 and turned: it reaches from 469 to 549 and from 71 to 89. Its underside to 100: 29 up.
  expect(after(d, "align", { devices: ["-A", "-C"], by: "bottom" })).toContain("-C +A1/plate 500,69");
  expect(after(d, "align", { devices: ["-A", "-C"], by: "left" })).toContain("-C +A1/plate 131,40");
  const row = design([["-A", "W10", "R1", 20], ["-B", "W10", "R1", 60], ["-C", "W45", "R1", 100], ["-D", "W45", "R2", 0], ["-E", "W10", "R2", 45]]); // prettier-ignore
  // -C to 20, -A so that it ends at 145, -B 35 further.
  expect(after(row, "swap places", { devices: ["-A", "-C"] })).toEqual(["-A R1 135", "-B R1 95", "-C R1 20", "-D R2 0", "-E R2 45"]); // prettier-ignore
  expect(after(row, "swap places", { devices: ["-A", "-D"] })).toBe("-D has no room where -A stands: 5 mm are missing before -B on R1"); // prettier-ignore
  expect(after(row, "swap places", { devices: ["-C", "-E"] })).toContain("-C R2 45");
  expect(after(row, "align", { devices: ["-A", "-C"], by: "left" })).toBe("-A does not stand on a face by itself");
});

test("rails and ducts: added at a pitch within their face, deleted with what stood there loose", () => {
  const d = design([["-A", "W45", "R1", 10]]);
  const bar = { thing: "rail", tag: "R3", part: "R", face: "+A1/plate", x: 100, y: 900, run: "right", length: 400 };
  const added = EDITS.apply(d, { kind: "add bar", payload: { ...bar, times: 3, pitch: -150 } });
  expect(added.ok && added.design.rails.slice(2).map((r) => [r.tag, r.y])).toEqual([["R3", 900], ["R4", 750], ["R5", 600]]); // prettier-ignore
  expect(after(d, "add bar", { ...bar, times: 3, pitch: 10 })).toMatch(/^3 of them need a pitch of at least 35 mm/);
  expect(after(d, "add bar", { ...bar, length: 4000 })).toMatch(/^rail R3 would reach \d+ mm beyond \+A1\/plate/);
  expect(after(d, "add bar", { ...bar, tag: "R1" })).toBe("there is a rail R1 already");
  expect(after(d, "remove bars", { thing: "rail", tags: ["R1"] })).toEqual(["-A loose"]);
  const laid = { ...d, strips: [{ tag: "-X1", rail: "R1", members: [] }] };
  expect(after(laid, "remove bars", { thing: "rail", tags: ["R1"] })).toBe("strip -X1 belongs on rail R1");
});

test("what is offered: lined up from a rail on, by width or by tag; bars added, repeated, deleted", () => {
  const d = design([
    ["-K2", "W10", null],
    ["-K10", "W45", null],
  ]);
  const put = manyDevicesActs(["-K10", "-K2"], d).find((a) => a.id === "line-up")!;
  const answers = (values: Record<string, string | number>) => ({ values: { ...Object.fromEntries(put.asks.map((a) => [a.field, "now" in a ? (a.now as string) : undefined])), ...values }, set: new Set<string>() }); // prettier-ignore
  expect(shaped(put, {}, answers({}))).toEqual({ ok: true, payload: { devices: ["-K10", "-K2"].sort(), rails: ["R1", "R2"] } }); // prettier-ignore
  expect(shaped(put, {}, answers({ order: "widest first", on: "that rail alone", gap: 2 }))).toEqual({ ok: true, payload: { devices: ["-K10", "-K2"], rails: ["R1"], gap: 2 } }); // prettier-ignore
  const [add] = addBarActs(d);
  const part = add!.asks[0] as { choices: readonly string[]; now: string };
  expect(part).toMatchObject({ choices: ["R, rail", "D, duct"], now: "R, rail" });
  const values = { part: part.now, face: "+A1/plate", run: "right", x: 10, y: 20, length: 300, times: 1 };
  const set = new Set(["x"]);
  const bar = { part: "R", face: "+A1/plate", run: "right", x: 10, y: 20, length: 300 };
  expect(shaped(add!, {}, { values, set })).toEqual({ ok: true, payload: { thing: "rail", tag: "R3", ...bar } });
  expect(shaped(add!, {}, { values: { ...values, part: "D, duct", tag: "W9" }, set })).toEqual({
    ok: true,
    payload: { thing: "duct", tag: "W9", ...bar, part: "D" },
  });
  expect(shaped(add!, {}, { values: { ...values, times: 4 }, set })).toMatchObject({ ok: false, field: "pitch" });
  const again = barActs(d, "rail", "R1").find((a) => a.id === "bar-again")!;
  expect(shaped(again, {}, { values: { times: 2, pitch: 150 }, set: new Set(["pitch"]) })).toMatchObject({ ok: true, payload: { tag: "R3", x: 100, y: 850, times: 2, pitch: 150 } }); // prettier-ignore
});

test("many at once on any rails: none in another, none off its rail, in their order; each edit of a row as well; taken back it is as it was", () => {
  const met = { lined: 0, wrapped: 0, full: 0, closed: 0, evened: 0, swapped: 0 };
  const anyPart = fc.constantFrom("W10", "W18", "W45", "WARM");
  fc.assert(
    fc.property(
      fc.array(fc.tuple(anyPart, fc.integer({ min: 0, max: 25 })), { maxLength: 6, size: "max" }),
      fc.array(anyPart, { minLength: 1, maxLength: 9, size: "max" }),
      fc.constantFrom(undefined, undefined, 0, 7),
      fc.tuple(fc.nat(5), fc.nat(5)),
      (there, loose, gap, [m, n]) => {
        let x = 0;
        const on = there.flatMap(([p, free], i): [string, string, string, number][] => {
          const at = x + free + (p === "WARM" ? 12 : 0);
          x = at + (p === "WARM" ? 57 : Number(p.slice(1)));
          return x <= 200 ? [[`-D${i}`, p, "R1", at]] : [];
        });
        const d = design([...on, ...loose.map((p, i): [string, string, null] => [`-L${i}`, p, null])]);
        const hash = contentHash(d);
        const tags = loose.map((_, i) => `-L${i}`);
        const check = (kind: string, payload: object): Design | null => {
          const applied = EDITS.apply(d, { kind, payload });
          expect(contentHash(d)).toBe(hash);
          if (!applied.ok) return null;
          const told = compute(applied.design);
          expect(told.clashes.filter((c) => c.kind === "bodies overlap")).toEqual([]);
          // Where the parts decide how near they stand, none is nearer than one asks for.
          if (kind === "line up" && gap === undefined) expect(told.clashes).toEqual([]);
          expect(told.open.filter((o) => o.kind === "off its rail")).toEqual([]);
          return applied.design;
        };
        const lined = check("line up", { devices: tags, rails: ["R1", "R2"], ...(gap === undefined ? {} : { gap }) });
        if (lined) {
          met.lined++;
          const at = lined.devices.slice(on.length).map((v) => v.on!);
          if (at.some((p) => p.rail === "R2") && at.some((p) => p.rail === "R1")) met.wrapped++;
          expect([...at].sort((a, b) => a.rail!.localeCompare(b.rail!) || a.x! - b.x!)).toEqual(at);
        } else met.full++;
        const order = (e: Design): string[] => e.devices.filter((v) => v.on).sort((a, b) => a.on!.x! - b.on!.x!).map((v) => v.tag); // prettier-ignore
        for (const [kind, key] of [
          ["close gaps", "closed"],
          ["even out", "evened"],
        ] as const) {
          // prettier-ignore
          const done = check(kind, { rail: "R1" });
          if (done) met[key]++;
          if (done) expect(order(done)).toEqual(order(d));
        }
        const [a, b] = [on[m % Math.max(1, on.length)], on[n % Math.max(1, on.length)]];
        if (a && b && a !== b && check("swap places", { devices: [a[0], b[0]] })) met.swapped++;
      },
    ),
    { numRuns: runs(400), seed: 283 },
  );
  if (ALL_DRAWN) expect(Object.entries(met).filter(([, n]) => n < 40)).toEqual([]);
});
