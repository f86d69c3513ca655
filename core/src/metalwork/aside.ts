import { overlaps, type Rect } from "../design/geometry";
import { Outlines } from "../solve/near";
import { originText } from "./say";
import type { Cut, Origin } from "./result";
import { fatOf, frameOf, rectFat, webOf, type Fat } from "./shapes";

/** Fixings step along their bar so far at a time, and stay so far from its ends. mm */
const STEP_MM = 1;
const END_MM = 10;
const MOST_NEAR = 64;

interface Obstacle {
  name: string;
  frame: Rect;
  fat: Fat;
}

/** What a fixing of a rail or a duct must not meet: holes of others, keep-outs, bodies that stand on the sheet. */
export class Obstacles {
  readonly #all: Obstacle[];
  readonly #index: Outlines;
  readonly #webMm: number;

  constructor(
    holes: readonly { cut: Cut; from: Origin }[],
    keepOuts: readonly (Rect & { text?: string })[],
    bodies: readonly { tag: string; outline: Rect }[],
    webMm: number,
  ) {
    const hole = ({ cut, from }: { cut: Cut; from: Origin }): Obstacle => ({
      name: originText([from]),
      frame: frameOf(cut),
      fat: fatOf(cut),
    });
    const area = (name: string, frame: Rect): Obstacle => ({ name, frame, fat: rectFat(frame) });
    this.#all = [
      ...holes.map(hole),
      ...keepOuts.map((k) => area(k.text === undefined ? "a keep-out" : `the keep-out ${k.text}`, k)),
      ...bodies.map((b) => area(b.tag, b.outline)),
    ];
    this.#index = new Outlines(this.#all.map((o) => o.frame));
    this.#webMm = webMm;
  }

  /** What a hole would meet; null when nothing. */
  meets(cut: Cut): string | null {
    const frame = frameOf(cut);
    const fat = fatOf(cut);
    for (const i of this.#index.touching(frame, this.#webMm, MOST_NEAR)) {
      const { name, frame: other, fat: its } = this.#all[i]!;
      if (overlaps(frame, other, -this.#webMm) && webOf(fat, its) < this.#webMm - 1e-6) return name;
    }
    return null;
  }

  /**
   * The place nearest to the wanted one, along the bar, where a fixing meets nothing: no further off than may be, and only where `may` lets it. Where
   * there is none it stays, and `by` says what is in its way. O(steps · near)
   */
  stepAside(
    a: number,
    length: number,
    mostMm: number,
    made: (a: number) => Cut | null,
    may: (a: number) => boolean = () => true,
  ): { a: number; by: string | null } {
    const by = this.#at(made(a));
    if (by === null) return { a, by };
    const end = Math.min(END_MM, length / 2);
    for (let off = STEP_MM; off <= mostMm; off += STEP_MM)
      for (const at of [a - off, a + off])
        if (at >= end && at <= length - end && may(at) && this.#at(made(at)) === null) return { a: at, by: null };
    return { a, by };
  }

  #at = (cut: Cut | null): string | null => (cut ? this.meets(cut) : null);
}
