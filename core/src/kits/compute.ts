import type { Colours } from "../wiring/landings";
import { lookUp } from "../design/lookup";
import type { KitRules } from "./rules";
import type { ThreadRow } from "../design/threads";
import type { Design } from "../design/model";
import { listed, OpenPoints } from "../design/open-points";
import { byText } from "../design/order";
import type { EndPiece } from "../wireprep/rules";
import type { LineupsResult } from "../lineups/result";
import type { MetalworkResult } from "../metalwork/result";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { billOf } from "./bill";
import { isOpenBin, kitsOf } from "./kits";
import type { Kit, KitsResult } from "./result";
import { storeOf, type Store } from "./walk";

export interface KitsNeeds {
  panel: PanelResult;
  routes: RoutesResult;
  lineups: LineupsResult;
  metalwork: MetalworkResult;
}

/** The bill of a job, its kits, the walk for each of them and for all of them at once. */
export function compute(
  design: Design,
  rules: KitRules,
  given: { colours: Colours; pieces: readonly EndPiece[]; threads: readonly ThreadRow[] },
  needs: KitsNeeds,
  progress: (share: number) => void = () => undefined,
): KitsResult {
  const points = new OpenPoints("kits");
  const bill = billOf({ look: lookUp(design), ...given, ...needs }, rules, points);
  progress(0.4);
  const store = storeOf(rules);
  const kits = kitsOf(design.job.code, bill, rules, store);
  progress(0.8);
  const together = store.walk(bill.flatMap((l) => (isOpenBin(l, rules) ? [] : (l.place ?? []))));
  checkPlaces(design.job.code, kits, together.unknown, points);
  checkWays(design.job.code, rules, store, points);
  return { bill, kits, together, open: points.list() };
}

function checkPlaces(job: string, kits: readonly Kit[], unknown: readonly string[], points: OpenPoints): void {
  const named = (list: readonly string[]): string => listed([...new Set(list)].sort(byText));
  const lines = kits.flatMap((k) => k.lines);
  // Wires without a type are told as such.
  const nowhere = lines
    .filter((l) => l.place === null && (l.part !== null || l.unit === "pcs"))
    .map((l) => l.part ?? l.text);
  if (nowhere.length > 0)
    points.add({
      severity: "note",
      kind: "kits have lines without a place",
      thing: "job",
      of: job,
      text: `nobody says where in the store these lie: ${named(nowhere)}`,
      remedy: "Say the place with the part in the library, or in the articles of the shop.",
    });
  if (unknown.length > 0)
    points.add({
      severity: "note",
      kind: "place off the ways",
      thing: "job",
      of: job,
      text: `no way of the store leads to ${named(unknown)}: they come last in every walk, and its metres leave them out`,
      remedy: "Add a row to where stock places are, or a way to it.",
    });
}

/** A walk that begins or ends at a place no way has. */
function checkWays(job: string, { start, end, aisles }: KitRules, store: Store, points: OpenPoints): void {
  const there = new Set(aisles.flatMap((a) => [a.from, a.to]));
  for (const [place, what] of [
    [start, "begin"],
    [end, "end"],
  ] as const)
    if (!there.has(place))
      points.add({
        severity: "check",
        kind: "walk from nowhere",
        thing: "job",
        of: job,
        text: `walks ${what} at "${place}", which is no place of the ways through the store`,
        remedy: "Name a place of the ways, or add a way to it, in the shop's rules.",
      });
  if (there.has(start) && there.has(end) && !store.reaches(end))
    points.add({
      severity: "check",
      kind: "walk from nowhere",
      thing: "job",
      of: job,
      text: `no way leads from "${start}" to "${end}": walks end where they begin`,
      remedy: "Add the way that is missing, in the shop's rules.",
    });
}
