import type { Part } from "@gray-bench/core/design/model";
import { standingPins, type StandingPin } from "@gray-bench/core/panel/pins";
import type { PanelResult, PlacedDevice } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { Circle, G, Text } from "react-native-svg";
import { meets } from "../kit/drawing/controls";
import { useTokens } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { FONTS } from "../kit/tokens";
import type { Box, View } from "../kit/drawing/useZoom";
import type { Layout } from "../sheet/useSheet";

/** Room between two pins of a device, px, before they are drawn, and before their names are. */
const DOT_PX = 7;
const NAME_CHAR_PX = 7.3;
const NAME_FONT_PX = 12;
/** How near a tap must be, px. */
const TAP_PX = 18;
/** More than this are no help. */
const MOST = 900;

export interface DevicePins {
  device: PlacedDevice;
  pins: StandingPin[];
  /** Between the two nearest pins, mm. */
  spacingMm: number;
  /** Pixels a millimetre from which on no name covers another. */
  namedFrom: number;
}

/** How near pins stand to each other, and how large they must be drawn for their names. O(pins²), once for a part. */
function room(pins: readonly StandingPin[], alone: number): Pick<DevicePins, "spacingMm" | "namedFrom"> {
  let [spacingMm, namedFrom] = [alone, (NAME_FONT_PX * 3) / alone];
  for (const [i, a] of pins.entries())
    for (const b of pins.slice(i + 1)) {
      const [dx, dy] = [Math.abs(a.x - b.x), Math.abs(a.y - b.y)];
      if (dx === 0 && dy === 0) continue;
      spacingMm = Math.min(spacingMm, Math.max(dx, dy));
      const width = ((a.name.length + b.name.length) / 2) * NAME_CHAR_PX + 3;
      // Names stand above their pins, below those whose wires leave upwards: two that face each other need room for both.
      const [upper, lower] = a.y > b.y ? [a, b] : [b, a];
      const between = upper.exit === "up" && lower.exit !== "up" ? 2 * NAME_FONT_PX + 10 : NAME_FONT_PX + 4;
      namedFrom = Math.max(namedFrom, Math.min(width / dx, between / dy));
    }
  return { spacingMm, namedFrom };
}

/** Pins of every device, worked out once for a design: equal parts share the distance of their pins. */
export function usePins(panel: PanelResult, parts: ReadonlyMap<string, Part>): DevicePins[] {
  return useMemo(() => {
    const rooms = new Map<string, Pick<DevicePins, "spacingMm" | "namedFrom">>();
    return panel.devices.flatMap((device) => {
      const part = parts.get(device.part);
      const pins = part ? standingPins(part, device) : [];
      if (pins.length === 0) return [];
      const key = `${device.part} ${device.turn}`;
      const known = rooms.get(key) ?? room(pins, Math.max(device.w, device.h));
      rooms.set(key, known);
      return [{ device, pins, ...known }];
    });
  }, [panel, parts]);
}

const drawn = (p: DevicePins, k: number): boolean => p.spacingMm * k >= DOT_PX;

/** The pin under a tap, where pins are drawn at this scale. */
export function pinAt(all: readonly DevicePins[], device: string, x: number, y: number, k: number): string | null {
  const of = all.find((p) => p.device.tag === device);
  if (!of || !drawn(of, k)) return null;
  const reach = Math.min(TAP_PX / k, of.spacingMm * 0.75);
  let best: { name: string; off: number } | null = null;
  for (const p of of.pins) {
    const off = Math.max(Math.abs(p.x - x), Math.abs(p.y - y));
    if (off <= reach && (!best || off < best.off)) best = { name: p.name, off };
  }
  return best?.name ?? null;
}

/** A pin as it is drawn, in pixels. */
interface ShownPin {
  device: string;
  pin: string;
  x: number;
  y: number;
  /** The middle of its name, and the room this takes; null where names have no room. */
  name: { y: number; box: Box } | null;
}

/** The pins in sight, with their names as soon as there is room for them. O(pins in sight) */
export function shownPins(
  pins: readonly DevicePins[],
  layout: Layout,
  view: View,
  visible: Box,
  scale: number,
  /** Where no name may stand, px. */
  controls: readonly Box[],
): ShownPin[] {
  const shown: ShownPin[] = [];
  for (const of of pins) {
    if (!drawn(of, view.k) || shown.length >= MOST) continue;
    const { device } = of;
    if (
      !meets(layout.boxOf(device.face, device.outline.x, device.outline.y, device.outline.w, device.outline.h), visible)
    )
      continue;
    const isNamed = view.k >= of.namedFrom * scale;
    for (const p of of.pins) {
      const at = layout.at(device.face, p.x, p.y);
      const [x, y] = [at.x * view.k + view.x, at.y * view.k + view.y];
      const [w, h] = [p.name.length * NAME_CHAR_PX * scale, NAME_FONT_PX * scale];
      const foot = p.exit === "up" ? y + h + 3 : y - 5;
      const box = { x: x - w / 2, y: foot - h, w, h };
      shown.push({
        device: device.tag,
        pin: p.name,
        x,
        y,
        name: isNamed && !controls.some((c) => meets(c, box)) ? { y: foot, box } : null,
      });
    }
  }
  return shown;
}

/** Pins where they stand, with their names. */
export function PinLayer({
  shown,
  chosen,
}: {
  shown: readonly ShownPin[];
  chosen: { device: string; pin: string } | null;
}) {
  const t = useTokens();
  const size = NAME_FONT_PX * useTextScale();
  return (
    <G>
      {shown.map((p) => {
        const on = chosen?.device === p.device && chosen.pin === p.pin;
        return (
          <G key={`${p.device} ${p.pin}`}>
            <Circle
              cx={p.x}
              cy={p.y}
              r={on ? 5 : 2.2}
              fill={on ? t.verdigris : t.paper}
              stroke={on ? t.verdigris : t.graphite}
              strokeWidth={1}
            />
            {p.name === null ? null : (
              <Text x={p.x} y={p.name.y} fontSize={size} fontFamily={FONTS.mono} fill={t.graphite} textAnchor="middle">
                {p.pin}
              </Text>
            )}
          </G>
        );
      })}
    </G>
  );
}
