import type { Design, Part, Strip } from "../design/model";
import { tiny } from "./tiny";

/** A strip for tests: six terminals of 5 mm, a relay of 12 between, 230 V beside 24 V, a cable of four cores. */

const pin = (name: string, x: number, y: number) => ({
  name,
  x,
  y,
  z: 30,
  exit: y > 30 ? ("up" as const) : ("down" as const),
  tail: 8,
  clamp: "push-in" as const,
  sizeMax: 2.5,
  conductors: 2,
});

export const STRIP_PARTS: Part[] = [
  {
    number: "T",
    maker: "Oddmake",
    text: "terminal",
    category: "terminal",
    w: 5,
    h: 60,
    d: 50,
    mounts: [{ kind: "rail", datumY: 30 }],
    pins: [pin("a", 2.5, 58), pin("b", 2.5, 2)],
    terminal: { levels: 1, jumperRows: 2, openSide: "right", endPlate: "TE", passes: true },
  },
  {
    number: "K",
    maker: "Oddmake",
    text: "relay",
    category: "relay",
    w: 12,
    h: 80,
    d: 70,
    mounts: [{ kind: "rail", datumY: 40 }],
    pins: [pin("A1", 3, 78), pin("A2", 9, 2)],
  },
  {
    number: "TE",
    maker: "Oddmake",
    text: "end plate",
    category: "terminal accessory",
    w: 1.5,
    h: 60,
    d: 50,
    accessory: "end plate",
  },
  {
    number: "ES",
    maker: "Oddmake",
    text: "end stop",
    category: "terminal accessory",
    w: 8,
    h: 40,
    d: 40,
    accessory: "end stop",
  },
  {
    number: "SP",
    maker: "Oddmake",
    text: "separator",
    category: "terminal accessory",
    w: 2,
    h: 70,
    d: 55,
    accessory: "separator",
  },
  {
    number: "C",
    maker: "Oddmake",
    text: "cable",
    category: "cable",
    w: 1,
    h: 1,
    d: 1,
    cable: { cores: 4, sizeMm2: 1.5, outer: 9 },
  },
];

export const STRIP_TAGS = ["-X1.1", "-X1.2", "-X1.3", "-X1.K", "-X1.4", "-X1.5", "-X1.6"];

/** The strip stands on rail R1, which begins at x = 100 and is 400 long; laid at 20 mm unless said otherwise. */
export function stripDesign(strip: Partial<Strip> = {}, more: Partial<Design> = {}): Design {
  const base = tiny({
    ducts: [{ tag: "W1", x: 0, y: 300, length: 600 }],
    parts: STRIP_PARTS,
    devices: [
      ...STRIP_TAGS.map((tag) => ({ tag, part: tag.endsWith("K") ? "K" : "T" })),
      { tag: "-F1", part: "T", on: { rail: "R1", x: 300 } },
    ],
    nets: [
      { name: "230", class: "supply", voltage: { v: 230, kind: "ac" } },
      { name: "24", class: "control", voltage: { v: 24, kind: "dc" }, currentA: 2 },
      { name: "s", class: "signal" },
    ],
    wires: [
      ["-X1.1", "230"],
      ["-X1.2", "230"],
      ["-X1.3", "24"],
      ["-X1.4", "24"],
      ["-X1.5", "s"],
    ].map(([device, net], i) => ({
      number: String(i + 1),
      net: net!,
      sizeMm2: 1,
      from: { device: device!, pin: "a" },
      to: { device: "-F1", pin: "a" },
    })),
  });
  return {
    ...base,
    rails: [{ tag: "R1", face: "+A1/plate", x: 100, y: 200, run: "right", length: 400, part: "R" }],
    cables: [
      {
        tag: "-W9",
        type: "C",
        from: "stage",
        to: "+A1",
        cores: ["-X1.5", "-X1.3", "-X1.4", "-X1.2"].map((device, i) => ({
          core: String(i + 1),
          from: { device, pin: "b" },
          far: `M1:${i + 1}`,
          net: device === "-X1.5" ? "s" : device === "-X1.2" ? "230" : "24",
        })),
      },
    ],
    strips: [{ tag: "-X1", rail: "R1", members: STRIP_TAGS, at: 20, ...strip }],
    ...more,
  };
}
