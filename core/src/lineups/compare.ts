import type { Told } from "../frame/stage";
import { membersOf, type LineupsResult, type StripPlan } from "./result";

/** What a change came to: members that came, went or changed places, strips, jumpers, accessories. O(members) */
export function compare(before: LineupsResult, after: LineupsResult): Told[] {
  const strips = new Map(before.strips.map((s) => [s.tag, s]));
  const now = new Set(after.strips.map((s) => s.tag));
  const fresh = after.strips.filter((s) => !strips.has(s.tag)).length;
  const gone = before.strips.filter((s) => !now.has(s.tag)).length;
  const tags = (r: LineupsResult): Set<string> => new Set(r.strips.flatMap((s) => membersOf(s).map((m) => m.tag)));
  const [was, is] = [tags(before), tags(after)];
  const pairs = after.strips.flatMap((s): [StripPlan, StripPlan][] => {
    const old = strips.get(s.tag);
    return old ? [[old, s]] : [];
  });
  const order = (s: StripPlan): string =>
    membersOf(s)
      .flatMap((m) => (was.has(m.tag) && is.has(m.tag) ? [m.tag] : []))
      .join("\u0000");
  const hung = (r: LineupsResult): number => r.strips.reduce((sum, s) => sum + s.items.length - membersOf(s).length, 0);
  const jumpers = (r: LineupsResult): number => r.strips.reduce((sum, s) => sum + s.jumpers.length, 0);
  const counts: [n: number, one: string, many: string][] = [
    [fresh, "strip new", "strips new"],
    [gone, "strip gone", "strips gone"],
    [[...is].filter((t) => !was.has(t)).length, "member new on strips", "members new on strips"],
    [[...was].filter((t) => !is.has(t)).length, "member no longer on a strip", "members no longer on strips"],
    [pairs.filter(([a, b]) => order(a) !== order(b)).length, "strip in another order", "strips in another order"],
    [
      pairs.filter(([a, b]) => a.at !== b.at || a.rail !== b.rail).length,
      "strip laid elsewhere",
      "strips laid elsewhere",
    ],
    [Math.max(0, jumpers(after) - jumpers(before)), "jumper more", "jumpers more"],
    [Math.max(0, jumpers(before) - jumpers(after)), "jumper fewer", "jumpers fewer"],
    [Math.max(0, hung(after) - hung(before)), "accessory more", "accessories more"],
    [Math.max(0, hung(before) - hung(after)), "accessory fewer", "accessories fewer"],
  ];
  return counts.flatMap(([n, one, many]): Told[] => (n === 0 ? [] : [{ text: `${n} ${n === 1 ? one : many}` }]));
}
