import { SURFACE_STATES, type Design, type Direction } from "../design/model";
import { HEAT_RULES, SURFACES } from "./rules";
import type { Ask } from "../design/open-points";
import type { DeviceHeat, UnitFit, ZoneHeat } from "./result";
import { asEdits, type Placed } from "./trial";
import { freeUnitTag } from "./units";
import type { KnownAct } from "../faces";
import type { Act, Shaped } from "../frame/act";
import { unitKey, unitName } from "./unit-name";

type Key = keyof ZoneHeat["values"];

/** What may be typed for a zone: surroundings and wishes. */
const OF_ZONE: Key[] = ["outsideMaxC", "outsideMinC", "insideMaxC", "insideMinC", "dampC", "dampPercent"];
/** What is the same for the whole job. */
const OF_JOB: Key[] = ["diversity", "leastSharePercent", "heightM", "tariffPerKWh", "missingAsMedian"];

function askFor(key: Key, now: number): Ask {
  const rule = HEAT_RULES[key];
  if (rule.as !== "number") throw new Error(`${key} is no number`);
  const unit = rule.unit === "°C" || rule.unit === "" ? "" : `, ${rule.unit}`;
  return { field: key, label: `${rule.text}${unit}`, as: rule.unit === "°C" ? "temperature" : "amount", now };
}

/** Refuses what lies beyond the range of its rule, in its field. */
function shaped(keys: readonly Key[], payload: object): NonNullable<Act["shape"]> {
  return ({ values, set }): Shaped => {
    const given: Record<string, unknown> = {};
    for (const key of keys) {
      if (!set.has(key)) continue;
      const rule = HEAT_RULES[key];
      const value = Number(values[key]);
      if (rule.as === "number" && (value < rule.min || value > rule.max))
        return {
          ok: false,
          field: key,
          reason: `This goes from ${rule.min} to ${rule.max} ${rule.unit}.`.replace(" .", "."),
        };
      given[key] = value;
    }
    return { ok: true, payload: { ...payload, values: given } };
  };
}

/** Surroundings and wishes of a zone, and what counts for the whole job. */
export const valueActs = (zone: ZoneHeat): KnownAct[] => [
  {
    id: "around",
    label: "Temperatures of this zone",
    title: "Set the temperatures",
    about: `What is around zone ${zone.zone}, and what is wanted inside. Counts for this zone alone.`,
    kind: "set heat",
    payloads: [{ enclosure: zone.enclosures[0] }],
    asks: OF_ZONE.map((key) => askFor(key, zone.values[key])),
    shape: shaped(OF_ZONE, { enclosure: zone.enclosures[0] }),
  },
  {
    id: "job",
    label: "Load, height, tariff of the job",
    title: "Set what counts for the job",
    about: "For all zones of this job. Diversity 0.7: of all losses 70 % at once.",
    kind: "set heat",
    payloads: [{}],
    asks: OF_JOB.map((key) => askFor(key, zone.values[key])),
    shape: shaped(OF_JOB, {}),
  },
];

const SURFACE_CHOICES = ["as it stands", ...SURFACE_STATES];

/** How the surfaces of an enclosure stand. */
export const surfacesAct = (design: Design, enclosure: string): KnownAct | null => {
  const e = design.enclosures.find((x) => x.tag === enclosure);
  if (!e) return null;
  return {
    id: `surfaces-${enclosure}`,
    label: `How ${enclosure} stands`,
    title: "Set how it stands",
    about: `Which sides of ${enclosure} are free, covered by a wall or the floor, or stand against a neighbour. A free side passes the most heat.`,
    kind: "set surfaces",
    payloads: [{ enclosure }],
    asks: SURFACES.map((s) => ({
      field: s,
      label: s,
      as: "choice",
      choices: SURFACE_CHOICES,
      now: e.surfaces?.[s] ?? SURFACE_CHOICES[0]!,
    })),
    shape: ({ values, set }) => ({
      ok: true,
      payload: {
        enclosure,
        surfaces: Object.fromEntries(
          SURFACES.flatMap((s) => (set.has(s) ? [[s, values[s] === SURFACE_CHOICES[0] ? null : values[s]]] : [])),
        ),
      },
    }),
  };
};

/** Load and diversity of devices: one, or many alike. */
export function loadAct(devices: readonly DeviceHeat[]): KnownAct {
  const same = (of: (d: DeviceHeat) => number): { now: number } | object => {
    const all = new Set(devices.map(of));
    return all.size === 1 ? { now: [...all][0]! } : {};
  };
  const tags = devices.map((d) => d.device);
  return {
    id: "load",
    label: devices.length === 1 ? "Load and diversity" : `Load and diversity of ${devices.length}`,
    title: "Set load and diversity",
    about: `Of ${tags.length > 8 ? `${tags.length} devices` : tags.join(", ")}: load 1 is as rated; diversity 0.7 is 70 % of it at once with the others. Emptied, what the design or the job says counts.`,
    kind: "set load",
    payloads: tags.map((device) => ({ device })),
    asks: [
      {
        field: "loadShare",
        label: "Load, as a share of its rating",
        as: "amount",
        optional: true,
        ...same((d) => d.share),
      },
      { field: "diversity", label: "Diversity, 0 to 1", as: "amount", optional: true, ...same((d) => d.diversity) },
    ],
    note: ({ values }) =>
      typeof values.diversity === "number" && values.diversity > 1 ? "Diversity is at most 1." : null,
  };
}

const round = (mm: number): number => Math.round(mm * 10) / 10;

/** Mounts a proposal; units that stand there and do the same give way to it. */
export function mountAct(zone: ZoneHeat, fit: UnitFit, design: Design): KnownAct | null {
  const { mounts } = fit;
  if (!mounts || mounts.length === 0) return null;
  const partOfNumber = new Map(design.parts.map((p) => [p.number, p]));
  const heater = (part: string): boolean => partOfNumber.get(part)?.climate?.kind === "heater";
  // The outlet filter of a fan is no unit: it takes nobody's place.
  const unit = (part: string): boolean => {
    const p = partOfNumber.get(part);
    return p?.climate !== undefined || p?.cooling !== undefined;
  };
  const taken = new Set(design.devices.map((d) => d.tag));
  // Each takes the place, the tag and the wires of one that does the same; those that are left over go with the first.
  const edits = [false, true].flatMap((heats) => {
    const mine = mounts.filter((m) => unit(m.part) && heater(m.part) === heats);
    const there = zone.units.filter((u) => (u.kind === "heater") === heats).map((u) => u.device);
    return mine.map(({ part, face, x, y }, i) => {
      const device = there[i] ?? freeUnitTag(taken);
      taken.add(device);
      const instead = [...(there[i] === undefined ? [] : [there[i]]), ...(i === 0 ? there.slice(mine.length) : [])];
      const mount: { device: string; part: string; face: string; x: number; y: number; instead?: string[] } = {
        device,
        part,
        face,
        x: round(x),
        y: round(y),
        ...(instead.length > 0 ? { instead } : {}),
      };
      return mount;
    });
  });
  for (const { part, face, x, y } of mounts.filter((m) => !unit(m.part))) {
    const device = freeUnitTag(taken);
    taken.add(device);
    edits.push({ device, part, face, x: round(x), y: round(y) });
  }
  const gone = edits.flatMap((e) => e.instead ?? []);
  // The same units stand there already.
  const partOf = new Map(zone.units.map((u) => [u.device, u.part]));
  if (edits.every((e) => e.instead?.length === 1 && partOf.get(e.device) === e.part)) return null;
  const where = [...new Set(mounts.map((m) => m.face))].join(" and ");
  const one = edits.length === 1;
  return {
    id: `mount-${unitKey(fit)}`,
    label: `Mount ${one ? "it" : "them"}${gone.length > 0 ? ` instead of ${gone.join(", ")}` : ""}`,
    title: one ? "Mount the unit" : "Mount the units",
    about: `${unitName(fit)} on ${where}${one ? "" : `, as ${edits.map((e) => e.device).join(", ")}`}. ${one ? "Its pins wait for their wires, or keep those of what it replaces; its opening is" : "Their pins wait for their wires, or keep those of what they replace; their openings are"} part of the face.`,
    kind: "mount unit",
    payloads: edits,
    asks: one ? [{ field: "device", label: "Its tag", as: "text", now: edits[0]!.device }] : [],
    asIs: true,
  };
}

/** A deflector on the outlet of a unit, or none. */
export const outletAct = (device: string, to: Direction | null): KnownAct => ({
  id: `outlet-${to ?? "none"}`,
  label: to === null ? "Take the deflector off" : `Place the deflector ${to}`,
  title: to === null ? "Take the deflector off" : "Place a deflector",
  about:
    to === null ? `${device} blows to all sides again.` : `The outlet of ${device} blows ${to}, as seen from outside.`,
  kind: "turn outlet",
  payloads: [{ device, to }],
  asks: [],
  asIs: true,
});

/** What was tried, laid as edits, all or none; null where it is none. */
export function takeOverAct(trial: Placed, zone: ZoneHeat): Act | null {
  const [first, ...more] = asEdits(trial, zone);
  if (!first) return null;
  return {
    id: "take-over",
    label: "Take it over",
    title: "Take over what was tried",
    about: `${more.length + 1 === 1 ? "One edit is" : `${more.length + 1} edits are`} laid on the design, all or none; each can be undone.${trial.doorOpen ? " The open door is not kept." : ""}`,
    kind: first.kind,
    payloads: [first.payload],
    more,
    asks: [],
    asIs: true,
  };
}
