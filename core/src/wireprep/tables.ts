import type { Cell } from "../formats/csv";
import type { Table } from "../formats/table";
import type { EndLabel } from "./printed";
import { byCount } from "../design/order";
import { crimpsLater } from "./counts";
import { WAYS, type Chain, type Lead, type LeadEnd, type ReelLine, type WireprepResult } from "./result";

const LEADS =
  "batch,order,wire,net,colour,size_mm2,strand,type,length_mm,from,from_pin,end_from,end_from_part,strip_from_mm,label_from,to,to_pin,end_to,end_to_part,strip_to_mm,label_to,bundle,pair,marks,later";

/** Crimps a lead shares with others. */
const pairOf = (lead: Lead): string => [lead.from.shared, lead.to.shared].filter((s) => s !== null).join(" ");

const row = (batch: string, order: number | null, l: Lead, more = ""): Cell[] => [
  batch,
  order,
  l.wire,
  l.net ?? "",
  l.colour ?? "",
  l.sizeMm2,
  l.strand,
  l.type ?? "",
  l.lengthMm,
  l.from.device,
  l.from.pin,
  l.from.treatment,
  l.from.part ?? "",
  l.from.stripMm,
  l.from.label,
  l.to.device,
  l.to.pin,
  l.to.treatment,
  l.to.part ?? "",
  l.to.stripMm,
  l.to.label,
  l.bundle,
  pairOf(l),
  [l.fallback ? "fallback" : "", more].filter((t) => t !== "").join(" "),
  [l.from, l.to].flatMap((e) => laterText(e) ?? []).join("; "),
];

/** What the bench does to an end that a machine only strips; null where nothing is left to do. */
export const laterText = ({ later }: LeadEnd): string | null =>
  later === undefined ? null : `${later.part ?? "twin ferrule"} with ${later.with} at ${later.at}`;

/** A twin ferrule that the bench puts on two leads of which a machine, or the bench, made each. */
export interface PartedCrimp {
  at: string;
  wires: [string, string];
  part: string | null;
  sizeMm2: number;
}

/** Each of them once, by place, with the lead that stands for it. */
export const partedCrimps = (leads: readonly Lead[]): PartedCrimp[] =>
  leads
    .flatMap((l) =>
      [l.from, l.to].flatMap((end): PartedCrimp[] =>
        end.later && crimpsLater(l, end)
          ? [{ at: end.later.at, wires: [l.wire, end.later.with], part: end.later.part, sizeMm2: l.sizeMm2 }]
          : [],
      ),
    )
    .sort((a, b) => byCount(a.at, b.at));

/** Leads of a batch in the order they are made. */
export const leadsTable = (batch: string, chains: readonly Chain[]): Table => ({
  head: LEADS.split(","),
  rows: chains.flatMap((c) => c.leads).map((l, i): Cell[] => row(batch, i + 1, l)),
});

/** Every lead of a job once: as machines make them, then what goes to the bench, then what is left for later, without a batch. */
export function allLeadsTable({ leads, batches }: Pick<WireprepResult, "leads" | "batches">): Table {
  const by = new Map(leads.map((l) => [l.wire, l]));
  return {
    head: LEADS.split(","),
    rows: batches.flatMap((b) => [
      ...b.chains.flat().map((w, i) => row(b.name, i + 1, by.get(w)!)),
      ...b.bench.map(({ wire }, i) => row(b.name, b.chains.flat().length + i + 1, by.get(wire)!, "bench")),
      ...b.left.flatMap(({ wire }) => {
        const lead = by.get(wire);
        return lead ? [row("", null, lead, "left")] : [];
      }),
    ]),
  };
}

/** What is made at the bench, with the reason. */
export function benchTable({ leads, batches }: Pick<WireprepResult, "leads" | "batches">): Table {
  const by = new Map(leads.map((l) => [l.wire, l]));
  return {
    head: ["why", ...LEADS.split(",").filter((h) => h !== "order")],
    rows: batches.flatMap((b) => [
      ...b.bench.map(({ wire, why }): Cell[] => {
        const [batch, , ...rest] = row(b.name, null, by.get(wire)!);
        return [why, batch!, ...rest];
      }),
      // A row for each crimp of two leads that are made apart: what is done there is its reason.
      ...partedCrimps([...b.chains.flat(), ...b.bench.map((x) => x.wire)].flatMap((w) => by.get(w) ?? [])).map(
        ({ at, wires, part, sizeMm2 }): Cell[] => [
          `crimp ${wires.join(" and ")} into ${part ?? "a twin ferrule"} at ${at}`,
          b.name,
          wires.join(" + "),
          "",
          "",
          sizeMm2,
          ...Array.from({ length: LEADS.split(",").length - 6 }, () => ""),
        ],
      ),
    ]),
  };
}

export const labelsTable = (labels: readonly EndLabel[]): Table => ({
  head: "wire,size_mm2,on,label,device,pin,bundle".split(","),
  rows: labels.map(({ wire, sizeMm2, end, bundle }): Cell[] => [
    wire,
    sizeMm2,
    end.labelOn,
    end.label,
    end.device,
    end.pin,
    bundle,
  ]),
});

export const batchesTable = ({ batches }: Pick<WireprepResult, "batches">): Table => ({
  head: "batch,machine,leads,bench,left,metres,machine_min,bench_min,hand_min,list_min,bundles_min,mixed_min,least_min,bound_min".split(
    ",",
  ),
  rows: batches.map((b): Cell[] => [
    b.name,
    b.machine ?? "bench",
    b.chains.flat().length,
    b.bench.length,
    b.left.length,
    b.metres,
    b.minutes.machine,
    b.minutes.bench,
    b.minutes.hand,
    ...WAYS.map((w) => b.ways[w]),
    b.boundMinutes,
  ]),
});

export const reelsTable = (
  reels: readonly (Pick<ReelLine, "wire" | "part" | "reel" | "metres" | "usedM" | "restM" | "assumed"> & {
    wires: readonly string[];
  })[],
): Table => ({
  head: "wire,part,reel,metres,leads,used_m,rest_m,fallback".split(","),
  rows: reels.map((r): Cell[] => [
    r.wire,
    r.part ?? "",
    r.reel ?? "full",
    r.metres,
    r.wires.length,
    r.usedM,
    r.restM,
    r.assumed ? "yes" : "",
  ]),
});
