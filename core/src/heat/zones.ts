import type { Face } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Material } from "../design/lists";
import type { Enclosure, SurfaceState } from "../design/model";
import { byText } from "../design/order";
import { HEAT_RULES, SURFACES, type HeatRules } from "./rules";
import type { Rules } from "../shop/rules";
import type { SurfaceHeat } from "./result";

/** Enclosures that share their air. */
export interface Zone {
  name: string;
  enclosures: Enclosure[];
  values: HeatRules;
  /** Its enclosures say different things of their surroundings; the first by tag counts. */
  differ: boolean;
}

/** Zones in order of name. O(enclosures) */
export function zonesOf(look: Lookup, rules: Rules["heat"]): Zone[] {
  const zones = new Map<string, Enclosure[]>();
  for (const e of [...look.enclosures.values()].sort((a, b) => byText(a.tag, b.tag))) {
    const name = e.zone ?? e.tag;
    const there = zones.get(name);
    if (there) there.push(e);
    else zones.set(name, [e]);
  }
  const { walls: _walls, stands: _stands, ...values } = rules;
  return [...zones]
    .sort(([a], [b]) => byText(a, b))
    .map(([name, enclosures]): Zone => {
      const own = enclosures.map((e) => JSON.stringify(Object.entries(e.heat ?? {}).sort()));
      return {
        name,
        enclosures,
        values: { ...values, ...enclosures[0]!.heat },
        differ: own.some((o) => o !== own[0]),
      };
    });
}

type Tables = Pick<Rules["heat"], "walls" | "stands">;

/** Of two rows for one thing the first counts. */
const passesOf = ({ walls }: Pick<Tables, "walls">): Map<Material, number> =>
  new Map([...walls].reverse().map((w) => [w.material, w.k]));
const countsOf = ({ stands }: Pick<Tables, "stands">): Map<string, number> =>
  new Map([...stands].reverse().map((s) => [`${s.surface} ${s.state}`, s.b]));

const SHIPPED_PASSES = passesOf({ walls: HEAT_RULES.walls.default });
const SHIPPED_COUNTS = countsOf({ stands: HEAT_RULES.stands.default });

/** What a surface without a statement stands like, and those between enclosures of one zone are none. */
export function surfacesOf(zone: Zone, look: Lookup, rules: Rules["heat"]): Omit<SurfaceHeat, "coldC" | "wet">[] {
  const zoneOf = (tag: string | undefined): string | undefined => {
    const e = tag === undefined ? undefined : look.enclosures.get(tag);
    return e && (e.zone ?? e.tag);
  };
  const leftOf = new Map(
    [...look.enclosures.values()].flatMap((e) => (e.neighbourRight ? [[e.neighbourRight, e.tag]] : [])),
  );
  const passes = passesOf(rules);
  const counts = countsOf(rules);
  return zone.enclosures.flatMap((e) =>
    SURFACES.flatMap((surface): Omit<SurfaceHeat, "coldC" | "wet">[] => {
      const beside = surface === "right" ? e.neighbourRight : surface === "left" ? leftOf.get(e.tag) : undefined;
      // Air goes through: no wall.
      if (beside !== undefined && zoneOf(beside) === zone.name) return [];
      const state: SurfaceState =
        e.surfaces?.[surface] ??
        (beside !== undefined && look.enclosures.has(beside) ? "neighbour" : surface === "base" ? "covered" : "free");
      const material = e.sheet?.material ?? "painted steel";
      const [w, h] =
        surface === "roof" || surface === "base"
          ? [e.w, e.d]
          : surface === "left" || surface === "right"
            ? [e.d, e.h]
            : [e.w, e.h];
      const [b, k] = [counts.get(`${surface} ${state}`), passes.get(material)];
      const shipped = [...(b === undefined ? ["b" as const] : []), ...(k === undefined ? ["k" as const] : [])];
      return [
        {
          enclosure: e.tag,
          surface,
          state,
          material,
          areaM2: (w * h) / 1e6,
          b: b ?? SHIPPED_COUNTS.get(`${surface} ${state}`)!,
          k: k ?? SHIPPED_PASSES.get(material)!,
          ...(shipped.length > 0 ? { shipped } : {}),
        },
      ];
    }),
  );
}

/** How high a point of a face lies above the floor of its enclosure, mm: of a roof and a floor at its end. */
export function heightOn(face: Face, y: number): number {
  return face.kind === "roof" ? face.origin.y : face.kind === "base" ? 0 : face.origin.y + y;
}
