import type { Term, Working } from "../frame/working";
import { even, lineKey, type BillLine, type Kit, type KitsResult, type KitsSubject, type Walk } from "./result";
import { savedMetres } from "./say";

const MOST_TAGS = 40;
const tagsText = (tags: readonly string[]): string =>
  tags.length <= MOST_TAGS
    ? tags.join(" ")
    : `${tags.slice(0, MOST_TAGS).join(" ")} and ${tags.length - MOST_TAGS} more`;

/** How a figure of the kits came to be: the quantity of a line, the metres of a walk, a weight. Null when it is not there. */
export function explain(result: KitsResult, subject: KitsSubject): Working | null {
  if (subject.of === "quantity") {
    const line = result.bill.find(
      (l) => l.enclosure === subject.enclosure && l.step === subject.step && lineKey(l) === subject.line,
    );
    return line ? quantityWorking(line) : null;
  }
  if (subject.of === "walk" && subject.kit === undefined)
    return walkWorking("One walk for all kits", result.together, [
      {
        text: "kit by kit it would be",
        detail: `${even(result.kits.reduce((sum, k) => sum + k.walk.metres, 0))} m in ${result.kits.length} walks`,
      },
    ]);
  const kit = result.kits.find((k) => k.code === subject.kit);
  if (!kit) return null;
  return subject.of === "walk" ? walkWorking(`Walk for ${kit.code}`, kit.walk, []) : weightWorking(kit, result.bill);
}

function quantityWorking(line: BillLine): Working {
  const total = even(line.terms.reduce((sum, t) => sum + t.quantity, 0));
  const up = even(line.quantity - total);
  return {
    title: `${line.text}, ${[line.enclosure, line.step].filter((t) => t !== "").join(" ")}`,
    unit: line.unit === "pcs" ? "" : "m",
    terms: [
      ...line.terms.map((t): Term => ({
        text: t.text,
        value: t.quantity,
        detail: `for ${tagsText(t.tags)}`,
        ...(t.fallback ? { fallback: true } : {}),
        ...(/^(waste|\d)/.test(t.text) ? { source: "rule of the shop" } : {}),
      })),
      ...(up > 0 ? [{ text: "rounded up to whole pieces", value: up }] : []),
      ...(line.pieces ?? []).map((p): Term => ({ text: "cut", detail: `${p.of} ${p.mm} mm` })),
    ],
    total: line.quantity,
  };
}

function walkWorking(title: string, walk: Walk, more: readonly Term[]): Working {
  const { metres, boundMetres, listMetres, stops, unknown } = walk;
  const above = boundMetres !== null && boundMetres > 0 ? ((metres - boundMetres) / boundMetres) * 100 : 0;
  return {
    title,
    unit: "m",
    terms: [
      {
        text: `from the beginning past ${stops.length - unknown.length} places to the end`,
        value: even(metres),
        source: "ways through the store, rule of the shop",
      },
      boundMetres === null
        ? { text: "how near it is to the shortest", detail: "not looked at: too many places" }
        : {
            text: "no walk is shorter than",
            detail: `${Math.round(boundMetres * 10) / 10} m; this one is ${Math.round(above * 10) / 10} % above`,
            source: "bound by one-trees (Held and Karp 1970)",
          },
      {
        text: "in the order of the bill",
        detail: `${Math.round(listMetres * 10) / 10} m: ${savedMetres(walk)} m more`,
      },
      ...more,
      ...(unknown.length > 0
        ? [{ text: "without", detail: `no way leads to ${unknown.join(", ")}`, fallback: true as const }]
        : []),
    ],
    total: even(metres),
  };
}

function weightWorking(kit: Kit, bill: readonly BillLine[]): Working {
  const each = new Map(bill.map((l) => [lineKey(l), l.weightKg]));
  const weighed = kit.lines.filter((l) => l.unit === "pcs" && (each.get(lineKey(l)) ?? null) !== null);
  return {
    title: `Weight of ${kit.code}`,
    unit: "kg",
    terms: [
      ...weighed.map((l): Term => ({
        text: l.part ?? l.text,
        value: even(l.quantity * each.get(lineKey(l))!),
        detail: `${l.quantity} of ${each.get(lineKey(l))} kg`,
      })),
      ...(kit.unweighed > 0
        ? [
            {
              text: "counted as nothing",
              detail: `${kit.unweighed} lines state no weight, or are measured in metres`,
              fallback: true as const,
            },
          ]
        : []),
    ],
    total: kit.weightKg,
  };
}
