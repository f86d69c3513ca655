import { byText, pushTo } from "../design/order";
import type { Stock } from "../design/stock";
import type { KitLog } from "./events";
import { even, lineKey, stockKey, type BillLine, type Unit } from "./result";

/** What is counted with of a stock. */
export type Levels = Pick<Stock, "items" | "deliveries" | "reserved">;

/** No stock is known: nothing is judged. */
export const NO_STOCK: Levels = { items: [], deliveries: [], reserved: [] };

/** What a job still needs of one part. */
export interface Wanted {
  part: string;
  text: string;
  unit: Unit;
  quantity: number;
  tags: string[];
  /** By enclosure and step, in the order they are built. */
  steps: { enclosure: string; step: string; quantity: number; tags: string[] }[];
  pack: number | null;
  maker: string | null;
}

export interface JobNeeds {
  job: string;
  /** ISO date its kits are wanted on; null where nobody says. */
  wanted: string | null;
  parts: Wanted[];
}

/** ISO date so many days earlier; null for none. */
export function daysBefore(due: string | null | undefined, days: number): string | null {
  const at = due === null || due === undefined ? NaN : Date.parse(due.slice(0, 10));
  return Number.isNaN(at) ? null : new Date(at - days * 86_400_000).toISOString().slice(0, 10);
}

/**
 * A bill by part, less what is picked already: the steps that are built first get it. O(lines)
 * @param log what has been picked
 */
export function needsOf(bill: readonly BillLine[], log: ReadonlyMap<string, KitLog> = new Map()): Wanted[] {
  const picked = new Map<string, number>();
  for (const { lines } of log.values())
    for (const [key, is] of lines) picked.set(key, even((picked.get(key) ?? 0) + is.picked));
  const parts = new Map<string, Wanted>();
  for (const line of bill) {
    const key = `${stockKey(line)}\u0000${line.unit}`;
    let one = parts.get(key);
    if (!one)
      parts.set(
        key,
        (one = {
          part: stockKey(line),
          text: line.text,
          unit: line.unit,
          quantity: 0,
          tags: [],
          steps: [],
          pack: line.pack,
          maker: line.maker,
        }),
      );
    const there = picked.get(lineKey(line)) ?? 0;
    const done = Math.min(there, line.quantity);
    picked.set(lineKey(line), even(there - done));
    const quantity = even(line.quantity - done);
    one.quantity = even(one.quantity + quantity);
    if (quantity > 0) {
      one.tags.push(...line.tags);
      one.steps.push({ enclosure: line.enclosure, step: line.step, quantity, tags: line.tags });
    }
  }
  return [...parts.values()].map((p) => ({ ...p, tags: [...new Set(p.tags)].sort(byText) }));
}

/** What one job gets of a part. */
export interface JobShare {
  job: string;
  wanted: string | null;
  needed: number;
  /** Reserved for it, and from what is free. */
  fromStock: number;
  /** From deliveries that come in time. */
  fromDeliveries: number;
  /** From deliveries that come later, and when the last of them does. */
  late: number;
  lateUntil: string | null;
  missing: number;
}

/** One part over all jobs. */
export interface Need {
  part: string;
  text: string;
  unit: Unit;
  maker: string | null;
  pack: number | null;
  needed: number;
  /** Free, and reserved for these jobs; null where the store knows nothing of it: then it is not judged. */
  there: number | null;
  onItsWay: number;
  /** With nothing left to come; null where it is not judged. */
  missing: number | null;
  /** The job that wants it first, first. */
  jobs: JobShare[];
}

/** Whether something of it is not there in time. */
export const isShort = (need: Need): boolean =>
  need.missing !== null && (need.missing > 0 || need.jobs.some((j) => j.late > 0));

/**
 * What jobs need together, against what is there and what comes. The job that wants its kits first is served first: from what is
 * reserved for it, from what is free, from deliveries in time, and then from later ones. O(parts + deliveries) and sorting
 */
export function needsOver(jobs: readonly JobNeeds[], stock: Levels): Need[] {
  const free = new Map<string, number>();
  for (const { part, free: f } of stock.items) free.set(part, even((free.get(part) ?? 0) + f));
  const reserved = new Map<string, number>();
  for (const { job, part, quantity } of stock.reserved)
    reserved.set(`${job}\u0000${part}`, even((reserved.get(`${job}\u0000${part}`) ?? 0) + quantity));
  const coming = new Map<string, { quantity: number; due: string }[]>();
  for (const { part, quantity, due } of [...stock.deliveries].sort((a, b) => byText(a.due, b.due)))
    pushTo(coming, part, { quantity, due });
  const inOrder = [...jobs].sort((a, b) => byText(a.wanted ?? "\uffff", b.wanted ?? "\uffff") || byText(a.job, b.job));
  const needs = new Map<string, Need>();
  for (const { job, wanted, parts } of inOrder)
    for (const p of parts) {
      if (p.quantity <= 0) continue;
      const key = `${p.part}\u0000${p.unit}`;
      let need = needs.get(key);
      if (!need) needs.set(key, (need = newNeed(p, free, coming)));
      need.needed = even(need.needed + p.quantity);
      if (need.there === null) {
        need.jobs.push({ ...nothing(job, wanted), needed: p.quantity });
        continue;
      }
      const own = `${job}\u0000${p.part}`;
      need.there = even(need.there + (reserved.get(own) ?? 0));
      const share = shareOf(job, wanted, p, reserved.get(own) ?? 0, free, coming);
      need.jobs.push(share);
      need.missing = even(need.missing! + share.missing);
    }
  return [...needs.values()].sort(
    (a, b) => Number(isShort(b)) - Number(isShort(a)) || byText(a.part, b.part) || byText(a.unit, b.unit),
  );
}

const nothing = (job: string, wanted: string | null): JobShare => ({
  job,
  wanted,
  needed: 0,
  fromStock: 0,
  fromDeliveries: 0,
  late: 0,
  lateUntil: null,
  missing: 0,
});

type Coming = ReadonlyMap<string, { quantity: number; due: string }[]>;

const newNeed = (p: Wanted, free: ReadonlyMap<string, number>, coming: Coming): Need => {
  const there = free.get(p.part) ?? null;
  return {
    part: p.part,
    text: p.text,
    unit: p.unit,
    maker: p.maker,
    pack: p.pack,
    needed: 0,
    there,
    onItsWay: even((coming.get(p.part) ?? []).reduce((sum, d) => sum + d.quantity, 0)),
    missing: there === null ? null : 0,
    jobs: [],
  };
};

/** Takes what one job gets out of what is left. */
function shareOf(
  job: string,
  wanted: string | null,
  { part, quantity }: Wanted,
  own: number,
  free: Map<string, number>,
  coming: Coming,
): JobShare {
  const share = { ...nothing(job, wanted), needed: quantity };
  let left = even(quantity - Math.min(own, quantity));
  const pool = Math.min(left, free.get(part) ?? 0);
  free.set(part, even((free.get(part) ?? 0) - pool));
  left = even(left - pool);
  share.fromStock = even(quantity - left);
  for (const d of coming.get(part) ?? []) {
    const takes = Math.min(left, d.quantity);
    if (takes <= 0) continue;
    d.quantity = even(d.quantity - takes);
    left = even(left - takes);
    if (wanted === null || d.due <= wanted) share.fromDeliveries = even(share.fromDeliveries + takes);
    else {
      share.late = even(share.late + takes);
      share.lateUntil = d.due;
    }
  }
  share.missing = left;
  return share;
}

/** A step of an enclosure, and what it lacks. */
export interface StepStart {
  enclosure: string;
  step: string;
  lacks: { part: string; text: string; unit: Unit; quantity: number; tags: string[] }[];
}

/**
 * Which steps of a job can be built with what is there: what there is goes to the steps in the order they are built. Parts of no known
 * level stop nothing. O(lines)
 */
export function startsOf(job: string, parts: readonly Wanted[], needs: readonly Need[]): StepStart[] {
  const byKey = new Map(needs.map((n) => [`${n.part}\u0000${n.unit}`, n]));
  const starts = new Map<string, StepStart>();
  for (const { part, text, unit, steps } of parts) {
    const need = byKey.get(`${part}\u0000${unit}`);
    const share = need?.jobs.find((j) => j.job === job);
    let left = share && need?.there !== null ? even(share.fromStock + share.fromDeliveries) : Infinity;
    for (const { enclosure, step, quantity, tags } of steps) {
      const key = `${enclosure}\u0000${step}`;
      const start = starts.get(key) ?? { enclosure, step, lacks: [] };
      starts.set(key, start);
      const gets = Math.min(left, quantity);
      left = left === Infinity ? left : even(left - gets);
      if (gets < quantity) start.lacks.push({ part, text, unit, quantity: even(quantity - gets), tags });
    }
  }
  return [...starts.values()].sort((a, b) => byText(a.enclosure, b.enclosure));
}
