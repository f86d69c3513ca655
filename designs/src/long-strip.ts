import { DESIGN_FORMAT, DESIGN_VERSION, type Cable, type Design, type Wire } from "@gray-bench/core/design/model";
import { LIBRARY } from "./library";
import { seeded } from "./random";
import { range } from "./wiring";

/**
 * One strip laid on one rail, with cables whose cores land here and there among their neighbours and a few nets that come
 * back again and again: for measuring, not for looking at. The same seed gives the same design.
 */
export function longStrip(members = 400, cables = 80, seed = 1): Design {
  const random = seeded(seed);
  const tags = range(members).map((n) => `-X1.${n}`);
  const part = LIBRARY.find((p) => p.number === "FW-T2")!;
  const needed = new Set(["FW-T2", "FW-T2E", "FW-ES", "FW-SEP", "FW-TS35", "FW-C10.2", "FW-C5.2", "FW-C2.2", "BL-C18"]);
  const length = members * part.w + 200;
  const nets = range(12).map((n) => `P${n}`);
  const wires = tags.map((device, i): Wire => ({
    number: String(i + 1),
    net: random.next() < 0.4 ? random.pick(nets) : `N${i}`,
    sizeMm2: 1,
    from: { device, pin: "a" },
    to: { device: tags[random.whole(0, members - 1)]!, pin: "b" },
  }));
  const per = Math.floor(members / cables);
  // Each cable lands in a stretch of the strip, in no order, and now and then far away.
  const made = range(cables).map((n): Cable => {
    const first = (n - 1) * per;
    const cores = range(per).map(() => {
      const far = random.next() < 0.1;
      return tags[far ? random.whole(0, members - 1) : first + random.whole(0, per - 1)]!;
    });
    return {
      tag: `-W${n}`,
      type: "BL-C18",
      cores: cores.map((device, c) => ({ core: String(c + 1), from: { device, pin: "c" }, far: `M${n}:${c + 1}` })),
    };
  });
  return {
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    job: { code: `STRIP-${members}`, title: "A long strip", revision: "1" },
    enclosures: [
      {
        tag: "+A1",
        w: length + 100,
        h: 600,
        d: 400,
        plate: { w: length, h: 500, setback: 350, thickness: 3, material: "galvanised steel" },
      },
    ],
    faces: [],
    rails: [{ tag: "R1", face: "+A1/plate", x: 20, y: 200, run: "right", length: length - 40, part: "FW-TS35" }],
    ducts: [],
    crossings: [],
    parts: LIBRARY.filter((p) => needed.has(p.number)).map((p) =>
      p.pins ? { ...p, pins: p.pins.map((one) => ({ ...one, conductors: 100 })) } : p,
    ),
    devices: tags.map((tag) => ({ tag, part: "FW-T2", enclosure: "+A1" })),
    nets: [...nets, ...range(members, 0).map((n) => `N${n}`)].map((name) => ({ name, class: "control" as const })),
    wires,
    cables: made,
    strips: [{ tag: "-X1", rail: "R1", members: tags, at: 10 }],
    options: [],
    rules: {},
    attachments: [],
  };
}
