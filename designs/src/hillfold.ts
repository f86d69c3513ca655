import { DESIGN_FORMAT, DESIGN_VERSION, type Design } from "@gray-bench/core/design/model";
import { LIBRARY } from "./library";
import { deviceOf, drawPlate } from "./plate";
import { range, Wiring, type NetSpec } from "./wiring";

/** The wires it is wired with. */
const REELS: ReadonlySet<string> = new Set(["BL-W075BU", "BL-W25BK", "BL-W25GNYE", "BL-W25WH"]);

/** Hillfold Observatory, dome rotator: one wall box, 35 wires, nothing left open. */
export function hillfold(): Design {
  const parts = new Map(LIBRARY.map((p) => [p.number, p]));
  const used = new Set(["FW-TS35", "FW-D40", "OH-M25", "OH-K9", "OH-B1C6", "BL-S480", "FW-T2", "FW-T2E", "FW-ES", "FW-C2.2", "FW-C5.2", "FW-TPE", "FW-R6", "QM-PB", "QM-ES", "QM-PL", "FW-G25", "BL-C12"]);
  const plate = drawPlate(
    {
      face: "+A1/plate",
      w: 550,
      h: 650,
      sides: { left: "W1", right: "W2", part: "FW-D40" },
      across: ["W3", "W4", "W5"].map((tag) => ({ tag, part: "FW-D40" })),
      railPart: "FW-TS35",
      rows: [
        {
          height: 220,
          on: "rail",
          rail: "R1",
          items: [
            { tag: "-Q1", part: "OH-M25", gap: 5, texts: ["dome motor"] },
            { tag: "-F1", part: "OH-B1C6", gap: 10, texts: ["control"] },
            { tag: "-K1", part: "OH-K9", gap: 15, texts: ["dome left"] },
            { tag: "-K2", part: "OH-K9", texts: ["dome right"] },
            { tag: "-G1", part: "BL-S480", gap: 20, texts: ["24 V supply"] },
          ],
        },
        {
          height: 180,
          on: "rail",
          rail: "R2",
          items: [
            ...range(6).map((n) => ({ tag: `-X1.${n}`, part: "FW-T2", ...(n === 1 ? { gap: 12 } : {}) })),
            { tag: "-X1.PE", part: "FW-TPE" },
            ...range(2, 7).map((n) => ({ tag: `-X1.${n}`, part: "FW-T2" })),
            { tag: "-K3", part: "FW-R6", gap: 40, texts: ["limit left"] },
            { tag: "-K4", part: "FW-R6", texts: ["limit right"] },
          ],
        },
      ],
    },
    parts,
  );
  const door = (tag: string, part: string, x: number, text: string) => deviceOf({ tag, part, texts: [text] }, { face: "+A1/door", x, y: 420 });
  const w = new Wiring();
  const mains: NetSpec = {
    class: "supply",
    colour: "BK",
    sizeMm2: 2.5,
    voltage: { v: 400, kind: "ac" },
    currentA: 8,
  };
  const control: NetSpec = { class: "control", colour: "BU", sizeMm2: 0.75, voltage: { v: 24, kind: "dc" } };
  for (const [i, [head, foot]] of [
    ["1L1", "2T1"],
    ["3L2", "4T2"],
    ["5L3", "6T3"],
  ].entries()) {
    w.chain(`L${i + 1}`, mains, [`-X1.${i + 1}:a`, `-Q1:${head}`]);
    w.chain(`M${i + 1}`, mains, [`-Q1:${foot}`, `-K1:${head}`]);
    w.chain(`T${i + 1}`, mains, [`-K1:${foot}`, `-K2:${["6T3", "4T2", "2T1"][i]}`]);
    w.chain(`T${i + 1}`, mains, [`-K1:${foot}`, `-X1.${i + 4}:a`]);
  }
  w.chain("F.L", mains, ["-Q1:1L1", "-F1:1"]);
  w.chain("G.L", mains, ["-F1:2", "-G1:L"]);
  w.chain("G.N", { ...mains, colour: "WH" }, ["-Q1:3L2", "-G1:N"]);
  w.chain("PE", { class: "earth", sizeMm2: 2.5 }, ["-X1.PE:a", "-G1:PE"]);
  w.chain("P24", control, ["-G1:+", "-S3:11"]);
  w.chain("STOP", control, ["-S3:12", "-S1:13", "-S2:13", "-H1:X1"]);
  w.chain("LEFT", control, ["-S1:14", "-K3:11"]);
  w.chain("LEFT.1", control, ["-K3:14", "-K2:21"]);
  w.chain("LEFT.2", control, ["-K2:22", "-K1:A1"]);
  w.chain("RIGHT", control, ["-S2:14", "-K4:11"]);
  w.chain("RIGHT.1", control, ["-K4:14", "-K1:21"]);
  w.chain("RIGHT.2", control, ["-K1:22", "-K2:A1"]);
  w.chain("M", control, ["-G1:-", "-K1:A2", "-K2:A2", "-H1:X2"]);
  w.chain("LIM.L", control, ["-X1.7:a", "-K3:A1"]);
  w.chain("LIM.R", control, ["-X1.8:a", "-K4:A1"]);
  w.chain("P24", control, ["-G1:+'", "-X1.7:b", "-X1.8:b"]);
  w.chain("M", control, ["-G1:-'", "-K3:A2", "-K4:A2"]);
  return {
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    job: {
      code: "HILL-2604",
      title: "Hillfold Observatory, dome rotator",
      customer: "Hillfold Observatory",
      due: "2027-01-15",
      revision: "A",
      units: "mm",
    },
    enclosures: [
      {
        tag: "+A1",
        text: "dome rotator",
        w: 600,
        h: 700,
        d: 210,
        plate: { w: 550, h: 650, setback: 170, thickness: 2, material: "galvanised steel" },
        sheet: { thickness: 1.25, material: "painted steel" },
        hinge: "left",
        surfaces: { rear: "covered" },
      },
    ],
    faces: [],
    rails: plate.rails,
    ducts: [...plate.ducts, { tag: "W6", face: "+A1/door", x: 70, y: 330, run: "right", length: 400, part: "FW-D40", fixing: "rivet nut" }],
    crossings: [
      {
        tag: "D1",
        kind: "hinge",
        from: { duct: "W6" },
        to: { duct: "W1" },
        enclosure: "+A1",
        points: [
          { x: 75, y: 350, z: 37 },
          { x: 25, y: 350, z: 90 },
          { x: 45, y: 350, z: 133 },
        ],
        loop: 200,
      },
    ],
    parts: LIBRARY.filter((p) => used.has(p.number) || REELS.has(p.number)),
    devices: [
      ...plate.devices,
      door("-S1", "QM-PB", 130, "dome left"),
      door("-S2", "QM-PB", 210, "dome right"),
      door("-H1", "QM-PL", 290, "ready"),
      door("-S3", "QM-ES", 380, "emergency stop"),
      deviceOf({ tag: "-XE1", part: "FW-G25" }, { face: "+A1/base", x: 100, y: 80 }),
    ],
    nets: w.nets,
    wires: w.wires,
    cables: [
      {
        tag: "-W1",
        type: "BL-C12",
        from: "+A1",
        to: "dome motor",
        gland: "-XE1",
        cores: range(3, 4).map((n) => ({
          core: String(n - 3),
          colour: "BK" as const,
          sizeMm2: 1,
          from: { device: `-X1.${n}`, pin: "c" },
          far: `-M1:${n - 3}`,
        })),
      },
    ],
    strips: [{ tag: "-X1", rail: "R2", members: [...range(6).map((n) => `-X1.${n}`), "-X1.PE", "-X1.7", "-X1.8"] }],
    options: [],
    rules: {
      routes: { reservePercent: 2 },
      classes: { control: { sizeMm2: 0.75 } },
      heat: { outsideMinC: 5, outsideMaxC: 32, insideMinC: 5, insideMaxC: 45, dampC: 10, dampPercent: 70 },
    },
    attachments: [],
  };
}
