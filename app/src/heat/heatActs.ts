import type { Design } from "@gray-bench/core/design/model";
import { HEAT_RULES } from "@gray-bench/core/design/rules";
import type { Ask } from "@gray-bench/core/design/open-points";
import type { UnitFit, ZoneHeat } from "@gray-bench/core/heat/result";
import type { Act, Shaped } from "../edits/act";

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
export const valueActs = (zone: ZoneHeat): Act[] => [
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

/** The next tag of a unit that no device has. */
const freeTag = (design: Design): string => {
  const taken = new Set(design.devices.map((d) => d.tag));
  for (let n = 1; ; n++) if (!taken.has(`-E${n}`)) return `-E${n}`;
};

/** Mounts the first unit of a proposal; one that stands there and does the same gives way to it. */
export function mountAct(zone: ZoneHeat, fit: UnitFit, design: Design): Act | null {
  const [part] = fit.parts;
  if (!fit.mount || !part) return null;
  const same = zone.units.filter((u) => (u.kind === "heater") === (fit.kind === "heater"));
  const replaced = fit.parts.length === 1 && part.count === 1 ? same.map((u) => u.device) : [];
  const tag = replaced[0] ?? freeTag(design);
  const { face, x, y } = fit.mount;
  const round = (mm: number): number => Math.round(mm * 10) / 10;
  return {
    id: `mount-${fit.parts.map((p) => `${p.count}x${p.number}`).join("-")}`,
    label:
      replaced.length > 0
        ? `Mount it instead of ${replaced.join(", ")}`
        : part.count > 1
          ? "Mount the first of them"
          : "Mount it",
    title: "Mount the unit",
    about: `${part.number} on ${face}. Its pins wait for their wires; its opening is part of the face.`,
    kind: "mount unit",
    payloads: [
      {
        device: tag,
        part: part.number,
        face,
        x: round(x),
        y: round(y),
        ...(replaced.length > 0 ? { instead: replaced } : {}),
      },
    ],
    asks: [{ field: "device", label: "Its tag", as: "text", now: tag }],
    asIs: true,
  };
}
