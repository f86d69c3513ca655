import { qrItems } from "../formats/qr";
import { fittedText, labelSheets, TICKETS } from "../formats/label-sheets";
import type { Scene, SceneItem, SceneText } from "../formats/scene";
import { lineKey, type Kit, type KitLine } from "./result";
import { issueText, quantityText, savedMetres, weightText } from "./say";

export interface Heading {
  job: string;
  title: string;
  revision: string;
}

const A4 = { w: 210, h: 297 };
const MARGIN = 10;
const CODE = 30;
const ROW = 9;
/** Where columns begin, mm from the left: tick, place, part and text, count, tags. */
const AT = { tick: 10, order: 18, place: 26, part: 54, count: 132, tags: 150 };

const text = (
  x: number,
  y: number,
  value: string,
  size: number,
  room: number,
  anchor: SceneText["anchor"] = "start",
): SceneText => fittedText([x, y], value, { size, room, least: 1.4, anchor });
const line = (x1: number, y1: number, x2: number, y2: number, width = 0.15): SceneItem => ({
  kind: "line",
  x1,
  y1,
  x2,
  y2,
  width,
  layer: "frame",
});

/** The head of a ticket: its code large and as QR, what it is, how heavy, how far. */
function head(kit: Kit, { job, title, revision }: Heading, page: number, pages: number): SceneItem[] {
  const { walk } = kit;
  const room = A4.w - 2 * MARGIN - CODE - 4;
  const said = [
    `${job} ${title}, revision ${revision}${pages > 1 ? `, sheet ${page} of ${pages}` : ""}`,
    `${kit.enclosures.join(" ")} ${kit.step}${kit.apart ? `, ${kit.apart}: a kit of its own` : ""}; ${kit.lines.length} lines; ${weightText(kit)}`,
    `walk ${walk.metres} m${walk.unknown.length > 0 ? " without the places nothing leads to" : ""}; ${savedMetres(walk)} m less than in the order of the bill`,
  ];
  return [
    text(MARGIN, MARGIN + 6, kit.code, 6.5, room),
    ...said.map((row, i) => text(MARGIN, MARGIN + 14 + i * 5, row.trim(), 3, room)),
    ...qrItems(kit.code, A4.w - MARGIN - CODE, MARGIN - 3, CODE),
    line(MARGIN, MARGIN + 29, A4.w - MARGIN, MARGIN + 29, 0.4),
  ];
}

function row(kitLine: KitLine, nth: number, y: number): SceneItem[] {
  const middle = y + ROW / 2;
  const issue = issueText(kitLine);
  const words = issue === "" ? kitLine.text : `${kitLine.text}; ${issue}`;
  return [
    { kind: "rect", x: AT.tick, y: y + 2, w: 5, h: 5, width: 0.3, layer: "outline" },
    text(AT.order + 6, middle, String(nth), 2.6, 6, "end"),
    text(AT.place, middle, kitLine.place ?? "no place", 3.2, AT.part - AT.place - 2),
    text(AT.part, middle - 1.8, kitLine.part ?? "", 3, AT.count - AT.part - 6),
    text(AT.part, middle + 1.8, words, 2.4, AT.count - AT.part - 6),
    text(AT.count + 14, middle, quantityText(kitLine.quantity, kitLine.unit), 4, 20, "end"),
    text(AT.tags, middle, kitLine.tags.join(" "), 2.4, A4.w - MARGIN - AT.tags),
    line(MARGIN, y + ROW, A4.w - MARGIN, y + ROW),
  ];
}

/** Pick lists: a ticket for each kit, its lines in the order of the walk, as many sheets as it takes. */
export function pickSheets(kits: readonly Kit[], heading: Heading): Scene[] {
  const top = MARGIN + 31;
  const each = Math.floor((A4.h - MARGIN - top) / ROW);
  return kits.flatMap((kit) => {
    const pages = Math.max(1, Math.ceil(kit.lines.length / each));
    return Array.from({ length: pages }, (_, p): Scene => ({
      name: kit.code,
      ...A4,
      items: [
        ...head(kit, heading, p + 1, pages),
        ...kit.lines.slice(p * each, (p + 1) * each).flatMap((l, i) => row(l, p * each + i + 1, top + i * ROW)),
      ],
    }));
  });
}

/** Labels for the bins: of each kit, and of each place of the store with what lies there; two by seven on sheets of A4. */
export function binLabels(kits: readonly Kit[], heading: Heading): Scene[] {
  const stored = new Map<string, KitLine>();
  for (const kit of kits)
    for (const l of kit.lines) if (l.place !== null && !stored.has(lineKey(l))) stored.set(lineKey(l), l);
  const labels = [
    ...kits.map((k) => ({
      code: k.code,
      big: [...k.enclosures, k.step].join(" "),
      rows: [k.code, `${k.lines.length} lines, ${weightText(k)}`, `${heading.title}, revision ${heading.revision}`],
    })),
    ...[...stored.values()].map((l) => ({
      code: l.part ?? l.text,
      big: l.place!,
      rows: [l.part ?? "", l.text],
    })),
  ];
  return labelSheets("bin labels", TICKETS, labels, ({ code, big, rows }, x, y) => {
    const room = TICKETS.w - TICKETS.h - 2;
    return [
      ...qrItems(code, x + TICKETS.w - TICKETS.h, y, TICKETS.h),
      text(x + 3, y + 8, big, 6.5, room),
      ...rows.map((r, k) => text(x + 3, y + 18 + k * 5.5, r, 3, room)),
    ];
  });
}
