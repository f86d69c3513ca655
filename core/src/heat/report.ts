import { fitted, textWidth, type Scene, type SceneItem } from "../formats/scene";
import { explain } from "./explain";
import type { Part } from "../design/model";
import { heatMap, hottest, type HeatMap } from "./map";
import { FIGURES, type HeatResult, type ZoneHeat } from "./result";
import { kindOf } from "./kinds";
import { proposalFor } from "./verdict";
import { dutyOver, needOf, whereText, type Counted, type DutyPoint } from "./units";
import { yearOf } from "./year";

const PAGE = { w: 210, h: 297, margin: 15 };
const ROOM = PAGE.w - 2 * PAGE.margin;
const LINE = { text: 2.6, head: 3.4, step: 4.4 };
/** Of the map on paper, mm; its cells. */
const MAP = { w: 70, h: 95, cells: 28 };
const MOST_TERMS = 12;

/** Lines of text down a page, then down the next one. */
class Pages {
  readonly scenes: Scene[] = [];
  #items: SceneItem[] = [];
  #y = 0;
  readonly #title: string;

  constructor(title: string) {
    this.#title = title;
    this.turn();
  }

  get y(): number {
    return this.#y;
  }

  turn(): void {
    this.#items = [];
    this.scenes.push({ name: `${this.#title} ${this.scenes.length + 1}`, w: PAGE.w, h: PAGE.h, items: this.#items });
    this.#y = PAGE.margin;
    this.line(`${this.#title}, page ${this.scenes.length}`, { size: LINE.text });
    this.rule();
  }

  /** Room for so many mm, or the next page. */
  need(mm: number): void {
    if (this.#y + mm > PAGE.h - PAGE.margin) this.turn();
  }

  /** A line, with a value at its end where there is one. */
  line(
    text: string,
    { size = LINE.text, indent = 0, value = "" }: { size?: number; indent?: number; value?: string } = {},
  ): void {
    this.need(LINE.step);
    const right = value === "" ? 0 : textWidth(value, size) + 3;
    const fit = fitted(text, ROOM - indent - right, size, 1.2);
    const y = this.#y + LINE.step / 2;
    this.#items.push({ kind: "text", x: PAGE.margin + indent, y, ...fit, anchor: "start", turn: 0, layer: "text" });
    if (value !== "")
      this.#items.push({
        kind: "text",
        x: PAGE.margin + ROOM,
        y,
        text: value,
        size,
        anchor: "end",
        turn: 0,
        layer: "text",
      });
    this.#y += LINE.step;
  }

  rule(): void {
    this.#items.push({
      kind: "line",
      x1: PAGE.margin,
      y1: this.#y,
      x2: PAGE.margin + ROOM,
      y2: this.#y,
      width: 0.2,
      layer: "frame",
    });
    this.#y += 1.5;
  }

  /** Something drawn, its upper left corner where the page is, so many mm high. */
  drawn(mm: number, draw: (y: number) => SceneItem[]): void {
    this.need(mm);
    this.#items.push(...draw(this.#y));
    this.#y += mm;
  }
}

const round = (v: number, digits = 1): string => String(Math.round(v * 10 ** digits) / 10 ** digits);

/** The balance of every zone on sheets of A4: inputs, every figure with its numbers set in, map, air by height, units. */
export function reportSheets(result: HeatResult, title: string, parts: readonly Part[]): Scene[] {
  const byNumber = new Map(parts.map((p) => [p.number, p]));
  return result.zones.flatMap((z) => zoneSheets(result, z, `${title}, heat of zone ${z.zone}`, byNumber));
}

function zoneSheets(result: HeatResult, z: ZoneHeat, title: string, parts: ReadonlyMap<string, Part>): Scene[] {
  const page = new Pages(title);
  const { values: v } = z;
  page.line("Inputs", { size: LINE.head });
  for (const [text, value] of [
    ["outside, hottest and coldest hour", `${v.outsideMaxC} / ${v.outsideMinC} °C`],
    ["wanted inside, at most and at least", `${v.insideMaxC} / ${v.insideMinC} °C`],
    ["damp air that is shut in", `${v.dampC} °C, ${v.dampPercent} %`],
    ["diversity; losses that are there when it is coldest", `${v.diversity}; ${v.leastSharePercent} %`],
    ["height above sea", `${v.heightM} m`],
    ["enclosures", z.enclosures.join(", ")],
  ] as const)
    page.line(text, { value });
  if (z.missing.length > 0)
    page.line(`${z.missing.length} losses are not stated`, {
      value: `${round(z.fallbackW)} W by fallback, at worst ${round(z.worstW)} W in all`,
    });
  for (const of of FIGURES) {
    const working = explain(result, { zone: z.zone, of })!;
    page.need(LINE.step * 3);
    page.rule();
    const total =
      working.total === null
        ? ""
        : typeof working.total === "number"
          ? `${working.total} ${working.unit}`
          : working.total;
    page.line(working.title, { size: LINE.head, value: total });
    for (const t of working.terms.slice(0, MOST_TERMS))
      page.line(`${t.text}${t.detail ? `: ${t.detail}` : ""}${t.fallback ? " (fallback)" : ""}`, {
        indent: 4,
        value: t.value === undefined ? "" : `${t.value} ${working.unit}`,
      });
    if (working.terms.length > MOST_TERMS)
      page.line(`and ${working.terms.length - MOST_TERMS} more, in heat-devices.csv`, { indent: 4 });
  }
  const plates = z.faces.filter((f) => f.sources.length > 0);
  for (const face of plates) {
    const scale = Math.min(MAP.w / face.w, MAP.h / face.h);
    const map = heatMap(face.w, face.h, face.sources, v.smoothingMm, Math.max(face.w, face.h) / MAP.cells);
    page.need(face.h * scale + 20);
    page.rule();
    page.line(`Losses over ${face.face}, up to ${round(hottest(map), 2)} W/dm²: the darker the more`, {
      size: LINE.head,
    });
    page.drawn(face.h * scale + 4, (y) => mapItems(face, map, scale, y + 1));
    page.drawn(8, (y) => greys(hottest(map), y + 2));
  }
  page.need(40);
  page.rule();
  page.line("Air by height in the hottest hour, a model of slabs: an estimate", { size: LINE.head });
  if (z.column.length === 0) page.line("no wall passes heat: it comes to rest nowhere", { indent: 4 });
  for (const s of [...z.column].reverse().filter((_, i) => i % 4 === 0))
    page.line(`${Math.round(s.atMm)} mm above the floor`, { indent: 4, value: `${round(s.airC)} °C` });
  page.need(40);
  page.rule();
  page.line("Units that would do it", { size: LINE.head });
  for (const [does, hour, neededW] of [
    ["cools", "hottest hour", z.coolingNeededW],
    ["heats", "coldest hour", Math.max(z.heaterNeededW, z.dryNeededW)],
  ] as const) {
    const best = proposalFor(z, does);
    page.line(`in the ${hour}${does === "heats" && z.dryNeededW > z.heaterNeededW ? ", with the walls dry" : ""}`, {
      indent: 4,
      value: neededW > 0 ? `${Math.round(neededW)} W` : "nothing needed",
    });
    if (best === "nothing fits") page.line("nothing of the library fits", { indent: 8 });
  }
  for (const f of z.fits.filter((x) => x.holds && x.mounts).slice(0, 5))
    page.line(
      `${f.supply === null ? "" : `${f.supply}: `}${f.parts.map((p) => `${p.count} × ${p.number}`).join(" + ")}, ${whereText(f)}: ${Math.round(f.energyKWh)} kWh a year`,
      { indent: 4, value: `${Math.round(f.capacityW)} W, duty ${Math.round(f.dutyPercent)} %` },
    );
  if (z.thumb)
    page.line(
      `by the rule of thumb ${z.thumb.parts[0]!.number}, for ${Math.round(z.thumb.wantedW)} W: ${Math.round(z.thumb.energyKWh)} kWh a year`,
      {
        indent: 4,
        value: `duty ${Math.round(z.thumb.dutyPercent)} %`,
      },
    );
  for (const units of chosenOf(z, parts)) {
    page.need(CURVE.h + 16);
    page.rule();
    const points = dutyOver(units, needOf(z), yearOf(v.outsideMinC, v.outsideMaxC));
    const heats = units.every((u) => kindOf(u.part) === "heater");
    const work = heats ? points[0]! : points[points.length - 1]!;
    page.line(
      `${units.map((u) => `${u.count} × ${u.part.number}`).join(" + ")} over the temperature outside${z.units.length > 0 ? "" : ", proposed"}`,
      {
        size: LINE.head,
        value: `${Math.round(work.neededW)} W of ${Math.round(work.capacityW)} W at ${work.outsideC} °C`,
      },
    );
    page.line("whole line: what is carried; dashed: what is needed; the mark: the working point", { indent: 4 });
    page.drawn(CURVE.h, (y) => curveItems(points, work, y));
    const ran = points.reduce((sum, p) => sum + p.hours * p.share, 0);
    page.line("runs in a year, a model between its lowest and highest temperature", {
      indent: 4,
      value: `${Math.round(ran)} of 8760 h`,
    });
  }
  return page.scenes;
}

/** The more, the darker. */
const greyOf = (share: number): string => {
  const grey = Math.round(255 - 190 * share)
    .toString(16)
    .padStart(2, "0");
  return `#${grey}${grey}${grey}`;
};

/** Cells in greys, that black and white print shows too, with the bodies over them. */
function mapItems(face: ZoneHeat["faces"][number], map: HeatMap, scale: number, y: number): SceneItem[] {
  const most = hottest(map);
  const [w, h] = [(face.w * scale) / map.columns, (face.h * scale) / map.rows];
  const items: SceneItem[] = [];
  map.values.forEach((value, i) => {
    const share = most > 0 ? value / most : 0;
    if (share < 0.02) return;
    const [c, r] = [i % map.columns, Math.floor(i / map.columns)];
    items.push({
      kind: "rect",
      x: PAGE.margin + c * w,
      y: y + (map.rows - 1 - r) * h,
      w,
      h,
      width: 0,
      fill: greyOf(share),
      layer: "body",
    });
  });
  items.push({ kind: "rect", x: PAGE.margin, y, w: face.w * scale, h: face.h * scale, width: 0.3, layer: "outline" });
  for (const s of face.sources) {
    const [w, h] = [s.w * scale, s.h * scale];
    if (textWidth(s.device, TAG) + 0.6 < w && TAG * 1.3 < h)
      items.push({
        kind: "text",
        x: PAGE.margin + s.x * scale + w / 2,
        y: y + (face.h - s.y - s.h / 2) * scale,
        text: s.device,
        size: TAG,
        anchor: "middle",
        turn: 0,
        layer: "text",
      });
    items.push({
      kind: "rect",
      x: PAGE.margin + s.x * scale,
      y: y + (face.h - s.y - s.h) * scale,
      w: s.w * scale,
      h: s.h * scale,
      width: 0.15,
      layer: "outline",
    });
  }
  return items;
}

/** Of tags on bodies. */
const TAG = 1.7;
const SHADES = 5;

/** What the greys of a map stand for, in even steps. */
function greys(most: number, y: number): SceneItem[] {
  return Array.from({ length: SHADES }, (_, i): SceneItem[] => {
    const share = (i + 1) / SHADES;
    const x = PAGE.margin + i * 26;
    return [
      { kind: "rect", x, y, w: 6, h: 3, width: 0.15, fill: greyOf(share), layer: "outline" },
      {
        kind: "text",
        x: x + 7.5,
        y: y + 1.5,
        text: `${round(share * most, 2)} W/dm²`,
        size: 2,
        anchor: "start",
        turn: 0,
        layer: "text",
      },
    ];
  }).flat();
}

/** The units that stand in a zone, cooling and heating apart; where none does, the best of the library. */
function chosenOf(z: ZoneHeat, parts: ReadonlyMap<string, Part>): Counted[][] {
  const counted = (list: readonly { number: string; count: number }[]): Counted[] =>
    list.flatMap(({ number, count }) => {
      const part = parts.get(number);
      return part ? [{ part, count }] : [];
    });
  const apart = (all: Counted[]): Counted[][] =>
    [false, true].flatMap((heats) => {
      const some = all.filter((u) => (kindOf(u.part) === "heater") === heats);
      return some.length > 0 ? [some] : [];
    });
  const best = z.fits.find((f) => f.does === "both" && f.holds && f.mounts) ?? z.fits.find((f) => f.holds && f.mounts);
  return apart(counted(z.units.length > 0 ? z.units.map((u) => ({ number: u.part, count: 1 })) : (best?.parts ?? [])));
}

const CURVE = { h: 52, left: 14, foot: 6 };

/** Capacity and need over the temperature outside, with the working point. */
function curveItems(points: readonly DutyPoint[], work: DutyPoint, y: number): SceneItem[] {
  const [low, high] = [points[0]!.outsideC, points[points.length - 1]!.outsideC];
  const most = Math.max(1, ...points.map((p) => Math.max(p.capacityW, p.neededW))) * 1.05;
  const [x0, y0] = [PAGE.margin + CURVE.left, y + CURVE.h - CURVE.foot];
  const [w, h] = [ROOM - CURVE.left - 4, CURVE.h - CURVE.foot - 4];
  const px = (c: number): number => x0 + (high > low ? (c - low) / (high - low) : 0) * w;
  const py = (watts: number): number => y0 - (watts / most) * h;
  const items: SceneItem[] = [
    { kind: "line", x1: x0, y1: y0, x2: x0 + w, y2: y0, width: 0.2, layer: "frame" },
    { kind: "line", x1: x0, y1: y0, x2: x0, y2: y0 - h, width: 0.2, layer: "frame" },
  ];
  const text = (value: string, x: number, at: number, anchor: "start" | "middle" | "end"): void => {
    items.push({ kind: "text", x, y: at, text: value, size: 2, anchor, turn: 0, layer: "text" });
  };
  text("0 W", x0 - 1.5, y0, "end");
  text(`${Math.round(most)} W`, x0 - 1.5, y0 - h, "end");
  text(`${low} °C`, x0, y0 + 3, "middle");
  if (high > low) text(`${high} °C`, x0 + w, y0 + 3, "middle");
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const line = (of: (p: DutyPoint) => number, width: number): SceneItem => ({
      kind: "line",
      x1: px(a.outsideC),
      y1: py(of(a)),
      x2: px(b.outsideC),
      y2: py(of(b)),
      width,
      layer: "outline",
    });
    items.push(line((p) => p.capacityW, 0.5));
    // A dash for every other kelvin.
    if (i % 2 === 1) items.push(line((p) => p.neededW, 0.35));
  }
  const mark = 1.4;
  items.push({
    kind: "rect",
    x: px(work.outsideC) - mark / 2,
    y: py(work.neededW) - mark / 2,
    w: mark,
    h: mark,
    width: 0.2,
    fill: "#000000",
    layer: "outline",
  });
  return items;
}
