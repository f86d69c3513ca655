import type { Design, Part } from "../design/model";
import { DOT, dot, enclosure, tiny, wire } from "./tiny";

/**
 * A design with every kind of way, guess and lack in it, as small as that goes.
 */
const PIN = DOT.pins![0]!;
const part = (number: string, more: Partial<Part>): Part => ({ ...DOT, number, ...more });

const PARTS: Part[] = [
  part("BIG", { w: 60, h: 80, pins: [{ ...PIN, name: "a", x: 20, y: 70, exit: "up", tail: 12 }] }),
  part("BLIND", { w: 60, h: 80, pins: [{ name: "p", exit: "down", clamp: "screw" }] }),
  part("ODD", { pins: [{ name: "p", x: 5, y: 5, z: 40 }] }),
  part("FREE", { directLeads: true }),
  part("LOW", { category: "duct", w: 2000, h: 40, d: 40, duct: { innerW: 36, innerH: 34 } }),
  part("NARROW", { category: "duct", w: 2000, h: 25, d: 60, duct: { innerW: 10, innerH: 54 } }),
  part("PLAIN", { category: "duct", w: 2000, h: 40, d: 54 }),
  part("WT", { category: "wire", wire: { sizeMm2: 2.5, outer: 3.9, colour: "WH", strand: "solid" } }),
];

const door = (x: number) => [
  { x, y: 920, z: 373 },
  { x, y: 920, z: 27 },
];

export const EVERYTHING: Design = {
  ...tiny({
    enclosures: [enclosure("+A1", { neighbourRight: "+A2" }), enclosure("+A2")],
    parts: PARTS,
    ducts: [
      { tag: "low", y: 0, length: 1000 },
      { tag: "beside", y: 40, x: 200, length: 400, part: "LOW" },
      { tag: "high", y: 800, length: 1000 },
      { tag: "left", run: "up", x: 0, y: 0, length: 840 },
      { tag: "right", run: "up", x: 960, y: 0, length: 840 },
      { tag: "thin", y: 400, x: 40, length: 920, part: "NARROW" },
      { tag: "plain", y: 1200, length: 300, part: "PLAIN" },
      { tag: "door", face: "+A1/door", x: 100, y: 900, length: 800 },
      { tag: "next", face: "+A2/plate", y: 800, length: 500 },
      { tag: "alone", face: "+A1/left", y: 100, length: 300 },
      { tag: "kept", y: 1500, length: 500, classes: ["drive"] },
    ],
    crossings: [
      { tag: "H1", kind: "hinge", from: { duct: "high" }, to: { duct: "door" }, enclosure: "+A1", points: door(400) },
      {
        tag: "N1",
        kind: "wall",
        from: { duct: "high" },
        to: { face: "+A2/plate" },
        enclosure: "+A1",
        points: [
          { x: 1100, y: 930, z: 373 },
          { x: 2300, y: 930, z: 373 },
        ],
        loop: 35,
      },
      { tag: "E1", kind: "edge", from: { duct: "high" }, to: { duct: "door" }, enclosure: "+A1", points: door(900) },
      { tag: "X1", kind: "wall", from: { face: "+A1/left" }, to: { duct: "none" }, enclosure: "+A1", points: door(9) },
    ],
    devices: [
      dot("-A", 100, 20),
      dot("-B", 500, 60),
      dot("-C", 500, 820),
      { tag: "-BIG", part: "BIG", on: { face: "+A1/plate", x: 300, y: 150 } },
      { tag: "-BLIND", part: "BLIND", turn: 90, on: { face: "+A1/plate", x: 600, y: 100 } },
      { tag: "-ODD", part: "ODD", on: { face: "+A1/plate", x: 795, y: 855 } },
      { tag: "-F1", part: "FREE", on: { face: "+A1/plate", x: 100, y: 600 } },
      { tag: "-F2", part: "FREE", on: { face: "+A1/plate", x: 180, y: 640 } },
      dot("-D", 300, 920, "+A1/door"),
      dot("-N", 300, 820, "+A2/plate"),
      dot("-P", 100, 1220),
      dot("-Q", 250, 1220),
      dot("-L", 100, 120, "+A1/left"),
      dot("-T1", 100, 412.5),
      dot("-T2", 900, 412.5),
      dot("-K1", 100, 1520),
      dot("-K2", 400, 1520),
      { tag: "-R", part: "P", on: { rail: "rail", x: 50 } },
      { tag: "-OVER", part: "BIG", on: { face: "+A1/door", x: 300, y: 1000 } },
      { tag: "-Z", part: "P" },
    ],
    nets: [
      { name: "L1", class: "supply", colour: "BK", sizeMm2: 16 },
      { name: "M1", class: "drive", colour: "BK", sizeMm2: 4 },
      { name: "24", class: "control", colour: "BU", sizeMm2: 1 },
      { name: "AI", class: "signal", sizeMm2: 0.5 },
      { name: "PE", class: "earth" },
      { name: "odd", class: "control", colour: "BU", sizeMm2: 1.2 },
      { name: "bare" },
    ],
    wires: [
      wire("-A", "-B", { number: "beside", net: "24" }),
      wire("-A", "-C", { number: "up", net: "L1" }),
      wire("-D", "-A", { number: "hinge", net: "24" }),
      wire("-C", "-N", { number: "wall", net: "24" }),
      { ...wire("-BIG", "-A", { number: "ahead", net: "24" }), from: { device: "-BIG", pin: "a" } },
      { ...wire("-D", "-OVER", { number: "over", net: "24" }), to: { device: "-OVER", pin: "a" } },
      wire("-BLIND", "-A", { number: "blind", net: "M1" }),
      wire("-ODD", "-C", { number: "odd", net: "odd" }),
      wire("-F1", "-F2", { number: "direct", net: "24" }),
      wire("-P", "-Q", { number: "plain", net: "24" }),
      wire("-P", "-A", { number: "no way", net: "24" }),
      wire("-L", "-A", { number: "hanging", net: "24" }),
      wire("-Z", "-A", { number: "loose", net: "24" }),
      wire("-A", "-C", { number: "earth", net: "PE", type: "WT" }),
      wire("-A", "-C", { number: "nothing", net: "bare" }),
      wire("-A", "-C", { number: "core", net: "24", core: { cable: "-W1", core: "1" } }),
      wire("-R", "-C", { number: "rail", net: "24", colour: "RD", sizeMm2: 1.5 }),
      wire("-K1", "-K2", { number: "kept", net: "24" }),
      wire("-T1", "-T2", { number: "drive", net: "M1" }),
      wire("-T1", "-T2", { number: "signal", net: "AI" }),
      ...Array.from({ length: 8 }, (_, i) => wire("-T1", "-T2", { number: `thin ${i}`, net: "L1" })),
      ...Array.from({ length: 3 }, (_, i) => wire("-C", "-D", { number: `three ${i}`, net: "L1" })),
    ],
    rules: {
      routes: { reservePercent: 2 },
      classes: { earth: { sizeMm2: 2.5 }, signal: { colour: "VT" } },
    },
  }),
  rails: [{ tag: "rail", face: "+A1/plate", x: 300, y: 700, run: "right", length: 300, part: "R" }],
};
