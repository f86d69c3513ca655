import { median } from "../library/like-parts";
import { enclosureOf, type Face } from "../design/geometry";
import { pinKey } from "../wiring/landings";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, Device } from "../design/model";
import { pushTo } from "../design/order";
import type { Rules } from "../shop/rules";
import type { PanelResult, PlacedDevice } from "../panel/result";
import type { FreeFace } from "./units";

/** All that zones are worked out from. */
export interface Basis {
  look: Lookup;
  heat: Rules["heat"];
  panel: PanelResult;
  placed: Map<string, PlacedDevice>;
  faces: Map<string, Face>;
  byEnclosure: Map<string, Device[]>;
  /** What wires put into each enclosure, W. */
  wires: ReadonlyMap<string, number>;
  /** Median and largest loss of the parts of each kind that state one. */
  like: Map<string, { median: number; most: number }>;
  /** Faces of zones that units may be mounted on, as far as they were asked for. */
  free: Map<string, FreeFace[]>;
  /** Whether a wire or a core lands on a pin. */
  landed(device: string, pin: string): boolean;
}

/** @param heat the job's values on top of the shop's @param wires what they put into each enclosure, W */
export function basisOf(
  design: Design,
  heat: Rules["heat"],
  panel: PanelResult,
  wires: ReadonlyMap<string, number>,
): Basis {
  const look = lookUp(design);
  const placed = new Map(panel.devices.map((d) => [d.tag, d]));
  return {
    look,
    heat,
    panel,
    placed,
    faces: new Map(panel.faces.map((f) => [f.id, f])),
    byEnclosure: devicesOf(look, placed),
    wires,
    like: likeParts(look),
    free: new Map(),
    landed: landedOn(look),
  };
}

/** Losses of the parts of the library that state one, kind by kind. */
function likeParts(look: Lookup): Basis["like"] {
  const all = new Map<string, number[]>();
  for (const p of look.parts.values()) if (p.lossW !== undefined) pushTo(all, p.category, p.lossW);
  return new Map(
    [...all].map(([kind, list]) => [kind, { median: median(list)!, most: list.reduce((a, b) => Math.max(a, b)) }]),
  );
}

/** Devices by the enclosure they stand in; loose ones by the one they say. */
function devicesOf(look: Lookup, placed: Basis["placed"]): Map<string, Device[]> {
  const all = new Map<string, Device[]>();
  for (const device of look.devices.values()) {
    const face = placed.get(device.tag)?.face;
    const tag = face === undefined ? device.enclosure : enclosureOf(face);
    if (tag === undefined) continue;
    pushTo(all, tag, device);
  }
  return all;
}

/** Looks up what lands on pins when first asked. O(wires + cores) once */
function landedOn(look: Lookup): Basis["landed"] {
  let used: Set<string> | undefined;
  return (device, pin) => {
    used ??= new Set(
      [...look.wires.map((w) => w.wire), ...[...look.cables.values()].flatMap((c) => c.cores)].flatMap(({ from, to }) =>
        [from, to].flatMap((ref) => (ref ? [pinKey(ref)] : [])),
      ),
    );
    return used.has(pinKey({ device, pin }));
  };
}
