import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { HungPiece } from "./design/hung";
import { airFactor, coolingNeeded, dewPoint, effective, fanFlow, insideWithout, passing } from "./heat/balance";
import { issued } from "./kits/packs";
import { middlesOf } from "./lineups/jumpers";
import { METALWORK_RULES } from "./metalwork/rules";
import { depthMm } from "./metalwork/times";
import { swing } from "./routes/swing";
import { partedAt } from "./wireprep/chains";
import type { Lead } from "./wireprep/result";

/** The examples of docs/calculations, worked out by what computes: each sentence stands there, word by word. */

const page = (stage: string): string =>
  readFileSync(join(__dirname, `../../docs/calculations/${stage}.md`), "utf8").replace(/\s+/g, " ");
const round = (n: number, decimals = 2): string => String(Number(n.toFixed(decimals)));

test("a bundle over a hinge, and the cut length of a relay's lead", () => {
  const [a, b] = [
    { x: 300, y: 0, z: 27 },
    { x: 300, y: 0, z: 373 },
  ];
  const at = (deg: number): number => swing({ x: 0, z: 0 }, a, b, "left", deg).need;
  const guided = b.z - a.z;
  expect(page("routes")).toContain(
    `${guided} mm are guided. Open by 90° the two are ${round(at(90))} mm apart, by 120° ${round(at(120))} mm: ${round(at(120) - guided)} mm are lacking, and with 100 mm on top the loop is ${round(at(120) - guided + 100)} mm.`,
  );
  const sum = 146 + 2 * 30;
  expect(page("routes")).toContain(`146 + 30 + 30 = ${sum} mm, cut at ${Math.ceil(Math.max(120, sum) / 5) * 5} mm.`);
});

test("a comb that does not fit", () => {
  const piece = (kind: HungPiece["kind"], widthMm: number): HungPiece => ({ kind, widthMm, part: null });
  const [first, second] = middlesOf([
    piece("member", 5),
    piece("end plate", 1.5),
    piece("end stop", 8),
    piece("member", 5),
  ]);
  const apart = second! - first!;
  const off = Math.abs(apart / 5 - Math.round(apart / 5)) * 5;
  expect(page("lineups")).toContain(
    `${round(apart)} mm, which is ${round(apart / 5)} pitches: ${round(off)} mm off the ${Math.round(apart / 5)}rd tooth, more than 0.3 mm, and no comb fits.`,
  );
});

test("the balance of an enclosure, and its dew point", () => {
  const wall = (areaM2: number, b: number) => ({ areaM2, b, k: 5.5 });
  const walls = [wall(0.32, 1.4), wall(1.6, 0.9), wall(1.6, 0.5), wall(0.8, 0.9), wall(0.8, 0.9)];
  const wPerK = passing(walls);
  const carry = coolingNeeded(900, { wPerK, open: [] }, 40, 32);
  expect(page("heat")).toContain(
    `A = ${round(effective(walls), 3)} m², k · A = ${round(wPerK, 3)} W/K. Without anything it gets ${round(insideWithout(900, wPerK, 32)!, 1)} °C. ${round(carry, 1)} W are to be carried away; a filter fan moves ${round(fanFlow(900, wPerK, 40, 32, 900)!, 0)} m³/h, with f = ${airFactor(900).f}.`,
  );
  expect(page("heat")).toContain(`${round(dewPoint(30, 60), 1)} °C. A wall that is 24 °C inside and 16 °C outside`);
});

test("how deep the tip of a tool goes", () => {
  const through = { depth: "through" } as unknown as Parameters<typeof depthMm>[0];
  const deep = (tool: object): number =>
    depthMm(
      through,
      tool as Parameters<typeof depthMm>[1],
      { thicknessMm: 3, control: { beyondMm: 1.5 } } as Parameters<typeof depthMm>[2],
    );
  expect(page("metalwork")).toContain(
    `A 9 mm drill of 118° goes ${round(deep({ kind: "drill", d: 9 }), 3)} mm deep, a tap M8 with a lead of 4 pitches of 1.25 mm ${round(deep({ kind: "tap", d: 8, pitch: 1.25, leadPitches: 4 }), 3)} mm.`,
  );
});

test("whole packs", () => {
  const { packs, quantity, back } = issued(23, 10);
  expect(page("kits")).toContain(
    `23 pieces in packs of 10: ${packs} packs, ${quantity} pieces, of which ${back} come back.`,
  );
});

test("a string of five leads", () => {
  const bundles = ["a", "b", "b", "c", "c"];
  const leads = bundles.map(
    (bundle, i) =>
      ({
        wire: `w${i}`,
        bundle,
        from: { shared: i > 0 ? `c${i}` : null },
        to: { shared: i < 4 ? `c${i + 1}` : null },
      }) as Lead,
  );
  const cuts = new Set(partedAt([{ leads }], 2).map((p) => p.at));
  const pieces = bundles.reduce((text, b, i) => text + (i === 0 ? "(" : cuts.has(`c${i}`) ? ") (" : " ") + b, "") + ")";
  expect(page("wireprep")).toContain(`${pieces}: ${cuts.size} clamps are left for the bench.`);
});

test("a body on a door that comes out of its enclosure", () => {
  const [far, deep, edge] = [970, 200, 1000 - METALWORK_RULES.frameMm.default];
  const r = Math.hypot(far, deep);
  expect(page("panel")).toContain(
    `√(${far}² + ${deep}²) = ${round(r, 1)} mm, ${round(r - edge, 1)} mm more than the ${edge} mm that the frame leaves. ${Math.ceil(r - edge)} mm nearer to the hinge it comes out.`,
  );
  expect(Math.hypot(far - Math.ceil(r - edge), deep)).toBeLessThan(edge);
});
