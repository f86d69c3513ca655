import { qrItems } from "../formats/qr";
import { fittedText, labelSheets, TICKETS, type LabelGrid } from "../formats/label-sheets";
import type { Scene, SceneItem, SceneText } from "../formats/scene";
import type { EndLabel } from "./printed";
import { pushTo } from "../design/order";
import type { Lead, LeadEnd } from "./result";
import { laterText, type PartedCrimp } from "./tables";

/** Signs that would break a line of the file. */
const plain = (text: string): string => text.replace(/[\t\r\n]/g, " ");

/**
 * The file of a printer for labels: a line for each, cells parted by tabs. `media` says what is put in for those that follow, `label` one
 * of them, `end` how many there were, so that a file that was cut short is known as one.
 */
export function printerFile(labels: readonly EndLabel[]): Uint8Array {
  const lines = ["labels\t1"];
  let media = "";
  for (const { sizeMm2, end, wire } of labels) {
    const now = `${end.labelOn === "printed" ? "sleeve" : end.labelOn}\t${sizeMm2}`;
    if (now !== media) lines.push(`media\t${(media = now)}`);
    lines.push(`label\t${plain(wire)}\t${plain(end.label)}`);
  }
  lines.push(`end\t${labels.length}`);
  return new TextEncoder().encode(lines.map((l) => `${l}\n`).join(""));
}

const A4 = { w: 210, h: 297 };
const MARGIN = 10;

const text = (x: number, y: number, value: string, size: number, room: number): SceneText =>
  fittedText([x, y], value, { size, room, least: 1.2 });

const LABEL: LabelGrid = { w: 46, h: 12, columns: 4, rows: 21, gapX: 1.5, gapY: 1 };

/** Labels on sheets of A4, to be cut out and put on. */
export const labelPages = (labels: readonly EndLabel[]): Scene[] =>
  labelSheets("labels of leads", LABEL, labels, ({ wire, sizeMm2, end }, x, y) => [
    text(x + 2, y + 4.5, end.label, 4, LABEL.w - 4),
    text(x + 2, y + 9.5, `${wire} ${end.labelOn} ${sizeMm2} mm² ${end.device}:${end.pin}`, 2, LABEL.w - 4),
  ]);

/** A ticket to be tied to each bundle: what it is, how many leads, in which order it is wanted, its code. */
export function bundleTickets(job: string, leads: readonly Lead[], bundles: readonly string[]): Scene[] {
  const count = new Map<string, number>();
  for (const l of leads) count.set(l.bundle, (count.get(l.bundle) ?? 0) + 1);
  const known = bundles.filter((b) => count.has(b));
  const faces = new Map(leads.map((l) => [l.bundle, l.face]));
  return labelSheets("bundle tickets", TICKETS, known, (bundle, x, y, nth) => {
    const room = TICKETS.w - TICKETS.h - 2;
    const n = count.get(bundle)!;
    return [
      ...qrItems(`${job} bundle ${bundle}`, x + TICKETS.w - TICKETS.h, y, TICKETS.h),
      text(x + 3, y + 8, bundle, 6.5, room),
      text(x + 3, y + 18, `${n} ${n === 1 ? "lead" : "leads"}`, 3, room),
      text(x + 3, y + 23.5, `wired as number ${nth + 1} of ${known.length}`, 3, room),
      text(x + 3, y + 29, `${job} ${faces.get(bundle) ?? ""}`, 3, room),
    ];
  });
}

const ROW = 16;
const AT = { tick: 10, wire: 18, colour: 44, length: 62, from: 88, to: 144 };

/**
 * The cut list of the bench: a block for each lead with both ends, the wire it is cut from, what it is crimped with and why it is made
 * here; then crimps of two leads that are made apart. As many sheets as it takes.
 */
export function benchSheets(
  heading: string,
  leads: readonly { lead: Lead; why: string }[],
  parted: readonly PartedCrimp[] = [],
): Scene[] {
  const top = MARGIN + 12;
  const each = Math.floor((A4.h - MARGIN - top) / ROW);
  const pages = Math.ceil((leads.length + parted.length) / each);
  const partners = new Map<string, string[]>();
  for (const { lead } of leads)
    for (const { shared } of [lead.from, lead.to]) if (shared !== null) pushTo(partners, shared, lead.wire);
  const endText = (lead: Lead, e: LeadEnd): string =>
    [
      e.treatment,
      e.part ?? "",
      e.stripMm === null ? "strip open" : `strip ${e.stripMm}`,
      ...(e.shared === null
        ? []
        : (partners.get(e.shared) ?? []).filter((w) => w !== lead.wire).map((w) => `with ${w}`)),
    ]
      .filter((t) => t !== "")
      .join(", ");
  const wide = A4.w - MARGIN - AT.wire;
  /** The reason, and what is crimped later. */
  const whole = (lead: Lead, why: string): string =>
    [why, ...[lead.from, lead.to].flatMap((e) => (e.later ? `then ${laterText(e)}` : []))].join("; ");
  const tick = (y: number): SceneItem => ({
    kind: "rect",
    x: AT.tick,
    y: y + 2.5,
    w: 5,
    h: 5,
    width: 0.3,
    layer: "outline",
  });
  const under = (y: number): SceneItem => ({
    kind: "line",
    x1: MARGIN,
    y1: y + ROW,
    x2: A4.w - MARGIN,
    y2: y + ROW,
    width: 0.15,
    layer: "frame",
  });
  const blocks: ((y: number) => SceneItem[])[] = [
    ...leads.map(({ lead, why }) => (y: number): SceneItem[] => [
      tick(y),
      text(AT.wire, y + 4, lead.wire, 3.6, AT.colour - AT.wire - 2),
      text(AT.colour, y + 4, `${lead.colour ?? "open"}`, 3, AT.length - AT.colour - 2),
      text(AT.colour, y + 8, `${lead.sizeMm2} mm²`, 2.4, AT.length - AT.colour - 2),
      text(AT.length, y + 4, `${lead.lengthMm} mm${lead.fallback ? " *" : ""}`, 4, AT.from - AT.length - 2),
      text(AT.length, y + 8, lead.type ?? "no wire of the library", 2.4, AT.from - AT.length - 2),
      text(AT.from, y + 4, `${lead.from.device}:${lead.from.pin}  ${lead.from.label}`, 3, AT.to - AT.from - 2),
      text(AT.from, y + 8, endText(lead, lead.from), 2.4, AT.to - AT.from - 2),
      text(AT.to, y + 4, `${lead.to.device}:${lead.to.pin}  ${lead.to.label}`, 3, A4.w - MARGIN - AT.to),
      text(AT.to, y + 8, endText(lead, lead.to), 2.4, A4.w - MARGIN - AT.to),
      text(AT.wire, y + 13, whole(lead, why), 2.4, wide),
      under(y),
    ]),
    ...parted.map(({ at, wires, part, sizeMm2 }) => (y: number): SceneItem[] => [
      tick(y),
      text(AT.wire, y + 4, `crimp ${wires.join(" and ")}`, 3.6, AT.to - AT.wire),
      text(AT.to, y + 4, `${part ?? "twin ferrule"}, ${sizeMm2} mm²`, 3, A4.w - MARGIN - AT.to),
      text(AT.wire, y + 9, `both land at ${at}`, 3, wide),
      under(y),
    ]),
  ];
  return Array.from({ length: pages }, (_, p): Scene => ({
    name: "bench list",
    ...A4,
    items: [
      text(MARGIN, MARGIN + 4, `${heading}${pages > 1 ? `, sheet ${p + 1} of ${pages}` : ""}`, 4, A4.w - 2 * MARGIN),
      ...blocks.slice(p * each, (p + 1) * each).flatMap((block, i) => block(top + i * ROW)),
    ],
  }));
}
