import type { Part } from "@gray-bench/core/design/model";
import { standingPins } from "@gray-bench/core/panel/pins";
import type { PlacedDevice } from "@gray-bench/core/panel/result";
import type { Box } from "../kit/drawing/useZoom";

/**
 * What a kind of device is known by on the drawing: a few lines within its outline, told apart without colour.
 * Each answers a path in sheet millimetres, y down.
 */
type Sign = (b: Box) => string;

const line = (x1: number, y1: number, x2: number, y2: number): string => `M${x1} ${y1}L${x2} ${y2}`;
const rect = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}z`;
const circle = (x: number, y: number, r: number): string =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
const times = (n: number, one: (i: number) => string): string => Array.from({ length: n }, (_, i) => one(i)).join("");
/** Signs stand in the lower part of a body: its middle belongs to the tag. */
const LOW = 0.79;
const middle = (b: Box): [x: number, y: number] => [b.x + b.w / 2, b.y + b.h * LOW];
const least = (b: Box): number => Math.min(b.w, b.h);

/** The lever that is thrown. */
const lever: Sign = (b) => {
  const [x, y] = middle(b);
  const [w, h] = [Math.min(b.w * 0.45, 9), Math.min(b.h * 0.18, 16)];
  return rect(x - w / 2, y - h / 2, w, h) + line(x - w / 2, y, x + w / 2, y);
};

/** Bars across: one for what switches small loads, two for large ones. */
const bars =
  (n: number): Sign =>
  (b) => {
    const [, y] = middle(b);
    return times(n, (i) =>
      line(b.x + b.w * 0.2, y + (i - (n - 1) / 2) * 6, b.x + b.w * 0.8, y + (i - (n - 1) / 2) * 6),
    );
  };

/** A frame within the frame. */
const doubled: Sign = (b) => {
  const inset = Math.min(4, least(b) * 0.15);
  return rect(b.x + inset, b.y + inset, b.w - 2 * inset, b.h - 2 * inset);
};

/** Small lamps in a row at the top. */
const lamps: Sign = (b) => {
  const n = Math.max(2, Math.min(8, Math.floor(b.w / 8)));
  return times(n, (i) => rect(b.x + ((i + 0.5) * b.w) / n - 1.5, b.y + b.h * 0.2, 3, 3));
};

/** Slots for the air. */
const vents: Sign = (b) => {
  const [x, y] = middle(b);
  const w = Math.min(b.w * 0.5, 40);
  return times(4, (i) => line(x - w / 2, y + (i - 1.5) * 5, x + w / 2, y + (i - 1.5) * 5));
};

/** Fins of a heat sink, over the upper part. */
const fins: Sign = (b) => {
  const n = Math.max(3, Math.min(12, Math.floor(b.w / 14)));
  return times(n, (i) =>
    line(b.x + ((i + 0.5) * b.w) / n, b.y + b.h * 0.1, b.x + ((i + 0.5) * b.w) / n, b.y + b.h * 0.34),
  );
};

const windings: Sign = (b) => {
  const [x, y] = middle(b);
  const r = least(b) * 0.16;
  return circle(x - r * 0.7, y, r) + circle(x + r * 0.7, y, r);
};

const zigzag: Sign = (b) => {
  const [x, y] = middle(b);
  const step = least(b) * 0.1;
  return `M${x - 3 * step} ${y}l${step} ${-step}l${step * 2} ${step * 2}l${step * 2} ${-step * 2}l${step} ${step}`;
};

const blades: Sign = (b) => {
  const [x, y] = middle(b);
  const r = least(b) * 0.18;
  const d = r * Math.SQRT1_2;
  return circle(x, y, r) + line(x - d, y - d, x + d, y + d) + line(x - d, y + d, x + d, y - d);
};

const ring: Sign = (b) => circle(...middle(b), least(b) * 0.15);

const both =
  (...signs: Sign[]): Sign =>
  (b) =>
    signs.map((s) => s(b)).join("");

const SIGNS: Readonly<Record<string, Sign>> = {
  breaker: lever,
  fuse: lever,
  switch: both(lever, doubled),
  contactor: bars(2),
  relay: bars(1),
  "safety relay": both(bars(1), doubled),
  controller: both(lamps, doubled),
  module: lamps,
  supply: vents,
  drive: fins,
  chopper: both(fins, doubled),
  transformer: windings,
  filter: zigzag,
  cooling: blades,
  fan: blades,
  heater: both(zigzag, doubled),
  socket: ring,
  gland: both(ring, (b) => circle(...middle(b), least(b) * 0.2)),
};

/** Steps of a terminal with several levels. */
const levels = (b: Box, n: number): string =>
  times(Math.max(0, n - 1), (i) => {
    const up = b.h >= b.w;
    const [depth, along] = [((i + 1) * (up ? b.h : b.w)) / (2 * n), up ? b.w : b.h];
    return up
      ? `M${b.x} ${b.y + depth}h${along}M${b.x} ${b.y + b.h - depth}h${along}`
      : `M${b.x + depth} ${b.y}v${along}M${b.x + b.w - depth} ${b.y}v${along}`;
  });

/** Share of a body, from its edge, in which pins count as on that side. */
const AT_EDGE = 0.25;
const TEETH: ReadonlySet<string> = new Set(["drive", "chopper"]);

/** Teeth on the sides of a drive at which its terminals are: that is where the wires go. */
function teeth(b: Box, device: PlacedDevice, part: Part): string {
  const o = device.outline;
  const pins = standingPins(part, device);
  const low = pins.filter((p) => p.y < o.y + o.h * AT_EDGE).length;
  const high = pins.filter((p) => p.y > o.y + o.h * (1 - AT_EDGE)).length;
  const n = Math.max(3, Math.floor(b.w / 12));
  const row = (y: number): string => times(n, (i) => rect(b.x + ((i + 0.5) * b.w) / n - 2.5, y, 5, 6));
  return (low > 1 ? row(b.y + b.h - 8) : "") + (high > 1 ? row(b.y + 2) : "");
}

/** The sign of a device on its outline; empty for kinds that are known by their shape alone. */
export function signOf(device: PlacedDevice, part: Part | undefined, b: Box): string {
  if (device.category === "terminal") return levels(b, part?.terminal?.levels ?? 1);
  const sign = SIGNS[device.category]?.(b) ?? "";
  return part && TEETH.has(device.category) ? sign + teeth(b, device, part) : sign;
}
