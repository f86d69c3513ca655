import { enclosureOf } from "../design/geometry";
import { sizeOf } from "../wiring/landings";
import { noLayout } from "../design/layout";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { OpenPoints } from "../design/open-points";
import type { Rules } from "../shop/rules";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { wireLoss } from "./balance";
import { basisOf, type Basis } from "./basis";
import { checkValues, judge } from "./judge";
import type { HeatResult } from "./result";
import { zoneHeat } from "./zone";
import { zonesOf } from "./zones";

const MOST_ZONES = 500;

/**
 * The balance of every zone: what goes in, what its walls pass, what must be carried away or put in, which units do it, and
 * where it gets too hot. O(devices + wires + zones · (parts · bins + slabs + cells · √cells))
 */
export function compute(design: Design, shop: Rules, panel: PanelResult, routes: RoutesResult): HeatResult {
  const points = new OpenPoints("heat");
  const heat = { ...shop.heat, ...design.rules.heat };
  const wires = wiresOf(design, shop.classes, panel, routes);
  const basis = basisOf(design, heat, panel, wires);
  const zones = zonesOf(basis.look, heat);
  const [device] = basis.look.devices.keys();
  if (zones.length === 0 && device !== undefined) points.add(noLayout("device", device, "no heat can be balanced"));
  if (zones.length > MOST_ZONES)
    points.add({
      severity: "stop",
      kind: "too many zones",
      thing: "enclosure",
      of: zones[MOST_ZONES]!.enclosures[0]!.tag,
      text: `${zones.length} zones; heat was worked out for the first ${MOST_ZONES}`,
      remedy: "Put enclosures that share their air into one zone.",
    });
  return {
    zones: zones.slice(0, MOST_ZONES).map((zone) => {
      checkValues(zone, points);
      const z = zoneHeat(zone, basis);
      judge(z, basis, points);
      return z;
    }),
    basis: {
      walls: heat.walls,
      stands: heat.stands,
      wires: [...wires].map(([enclosure, w]) => ({ enclosure, w })),
    },
    open: points.list(),
  };
}

/** Mean square of a current that falls along a chain of n wires to equal loads, as a share of the whole. */
export const chainShare = (n: number): number => ((n + 1) * (2 * n + 1)) / (6 * n * n);

/**
 * What wires put into each enclosure, half at each end. The current of a net falls along its wires as along a chain of equal
 * loads fed from one end: of n wires the mean square is (n + 1)(2n + 1) / 6n² of the whole. O(wires)
 */
function wiresOf(
  design: Design,
  classes: Rules["classes"],
  panel: PanelResult,
  routes: RoutesResult,
): Map<string, number> {
  const look = lookUp(design);
  const placed: Basis["placed"] = new Map(panel.devices.map((d) => [d.tag, d]));
  const watts = new Map<string, number>();
  const lengths = new Map(routes.wires.map((w) => [w.id, w.lengthMm]));
  const add = (device: string | undefined, w: number): void => {
    const face = device === undefined ? undefined : placed.get(device)?.face;
    if (face === undefined) return;
    const tag = enclosureOf(face);
    watts.set(tag, (watts.get(tag) ?? 0) + w);
  };
  const ofNet = new Map<string, number>();
  for (const { wire } of look.wires) if (wire.net !== undefined) ofNet.set(wire.net, (ofNet.get(wire.net) ?? 0) + 1);
  for (const { id, wire } of look.wires) {
    const current = wire.net === undefined ? undefined : look.nets.get(wire.net)?.currentA;
    const mm = lengths.get(id);
    const size = sizeOf(look, wire, classes)?.value;
    if (current === undefined || mm === null || mm === undefined || size === undefined) continue;
    const n = ofNet.get(wire.net!)!;
    const w = wireLoss(current, size, mm) * chainShare(n);
    add(wire.from?.device, w / 2);
    add(wire.to?.device, w / 2);
  }
  return watts;
}
