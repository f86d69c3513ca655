import { searchPattern } from "@gray-bench/core/design/wildcards";
import type { Colours } from "@gray-bench/core/wiring/landings";
import { isFallback, type RoutesResult, type WireRoute } from "@gray-bench/core/routes/result";

export const SORTS = { number: "as listed", length: "longest first", from: "by first device" } as const;
export type Sort = keyof typeof SORTS;
export const SHOWS = {
  all: "all",
  open: "without length",
  fallback: "with a fallback",
  marked: "with any mark",
} as const;
export type Show = keyof typeof SHOWS;

/** What narrows the list; every field stands in the address of the view. */
export interface WireFilter {
  q?: string;
  enclosure?: string;
  class?: string;
  colour?: string;
  device?: string;
  net?: string;
  crossing?: string;
  show?: Show;
  sort?: Sort;
}

const onEnclosure = (w: WireRoute, tag: string): boolean => [w.from, w.to].some((e) => e?.face.startsWith(`${tag}/`));

function overCrossing(result: RoutesResult, w: WireRoute, tag: string): boolean {
  return (
    w.way?.edges.some((e) => {
      const edge = result.edges[e]!;
      return edge.kind === "crossing" && edge.tag === tag;
    }) ?? false
  );
}

const shown: Record<Show, (w: WireRoute) => boolean> = {
  all: () => true,
  open: (w) => w.lengthMm === null,
  fallback: (w) => w.marks.some(isFallback),
  marked: (w) => w.marks.length > 0,
};

/** Nothing narrowed. */
export const NO_FILTER: WireFilter = {
  q: "",
  enclosure: "",
  class: "",
  colour: "",
  device: "",
  net: "",
  crossing: "",
  show: "all",
};

/** What is shown by a word of an address; all where it is no word of ours. */
export const showOf = (word: string | undefined): Show => (Object.hasOwn(shown, word ?? "") ? (word as Show) : "all");

/** The wires that pass the filter, sorted. The order of the design breaks ties. */
export function filterWires(result: RoutesResult, colours: Colours, f: WireFilter): WireRoute[] {
  const pattern = f.q?.trim() ? searchPattern(f.q.trim()) : null;
  const text = (w: WireRoute): string[] => [
    w.id,
    w.net ?? "",
    w.fromRef ? `${w.fromRef.device}:${w.fromRef.pin}` : "",
    w.toRef ? `${w.toRef.device}:${w.toRef.pin}` : "",
  ];
  const list = result.wires.filter(
    (w) =>
      (!pattern || text(w).some((t) => pattern.test(t))) &&
      (!f.enclosure || onEnclosure(w, f.enclosure)) &&
      (!f.class || w.class === f.class) &&
      (!f.colour || (colours.get(w.id)?.value ?? "none") === f.colour) &&
      (!f.device || w.fromRef?.device === f.device || w.toRef?.device === f.device) &&
      (!f.net || w.net === f.net) &&
      (!f.crossing || overCrossing(result, w, f.crossing)) &&
      shown[showOf(f.show)](w),
  );
  if (f.sort === "length") list.sort((a, b) => (b.lengthMm ?? -1) - (a.lengthMm ?? -1));
  if (f.sort === "from") list.sort((a, b) => compare(a.fromRef?.device ?? "", b.fromRef?.device ?? ""));
  return list;
}

const natural = new Intl.Collator("en", { numeric: true });
const compare = (a: string, b: string): number => natural.compare(a, b);

/** Values that occur, for the choices of the filter. */
export function valuesOf(result: RoutesResult, colours: Colours) {
  const set = (values: (string | undefined)[]): string[] =>
    [...new Set(values.filter((v) => v !== undefined))].sort(compare);
  return {
    enclosure: set(result.wires.flatMap((w) => [w.from?.face.split("/")[0], w.to?.face.split("/")[0]])),
    class: set(result.wires.map((w) => w.class ?? undefined)),
    colour: set(result.wires.map((w) => colours.get(w.id)?.value ?? "none")),
  };
}
