import type { Device, Duct, Part, Rail, When } from "@gray-bench/core/design/model";

/** A device to be stood in a row. */
export interface Item {
  tag: string;
  part: string;
  /** Free space before it, mm. */
  gap?: number;
  texts?: string[];
  when?: When;
  sheet?: string;
  /** Width to keep where it is more than the body's, e.g. for modules to the right. */
  width?: number;
}

export interface Row {
  /** Clear height between the ducts above and below, mm. */
  height: number;
  /** `rail`: on a rail through the middle; `plate`: screwed on, in the middle of the height. */
  on: "rail" | "plate";
  rail?: string;
  items: Item[];
}

export interface PlatePlan {
  face: string;
  w: number;
  h: number;
  /** Vertical ducts at both sides. */
  sides: { left: string; right: string; part: string };
  /** Horizontal ducts from the top down, one more than rows. */
  across: { tag: string; part: string; classes?: Duct["classes"] }[];
  rows: Row[];
  railPart: string;
}

export interface Drawn {
  rails: Rail[];
  ducts: Duct[];
  devices: Device[];
}

const MARGIN = 8;

/**
 * Draws a mounting plate: ducts at both sides and between the rows, rails with their devices side by
 * side from the left. Throws when a row or the whole does not fit: a demo design must.
 */
export function drawPlate(plan: PlatePlan, parts: ReadonlyMap<string, Part>): Drawn {
  const ductPart = (n: string): Part => parts.get(n)!;
  const sideW = ductPart(plan.sides.part).h;
  const ducts: Duct[] = [
    { tag: plan.sides.left, face: plan.face, x: 0, y: 0, run: "up", length: plan.h, part: plan.sides.part },
    {
      tag: plan.sides.right,
      face: plan.face,
      x: plan.w - sideW,
      y: 0,
      run: "up",
      length: plan.h,
      part: plan.sides.part,
    },
  ];
  const rails: Rail[] = [];
  const devices: Device[] = [];
  const needed = plan.across.reduce((s, a) => s + ductPart(a.part).h, 0) + plan.rows.reduce((s, r) => s + r.height, 0);
  if (needed > plan.h) throw new Error(`${plan.face}: rows and ducts need ${needed} mm of ${plan.h}`);
  // Room left over goes below the last row, where the cables come in.
  let top = plan.h;
  plan.across.forEach((a, i) => {
    const part = ductPart(a.part);
    top -= part.h;
    const duct: Duct = {
      tag: a.tag,
      face: plan.face,
      x: sideW,
      y: top,
      run: "right",
      length: plan.w - 2 * sideW,
      part: a.part,
    };
    ducts.push(a.classes ? { ...duct, classes: a.classes } : duct);
    const row = plan.rows[i];
    if (!row) return;
    top -= row.height;
    const middle = top + row.height / 2;
    let x = sideW + MARGIN;
    const end = plan.w - sideW - MARGIN;
    const railPart = ductPart(plan.railPart);
    if (row.on === "rail") {
      rails.push({
        tag: row.rail!,
        face: plan.face,
        x,
        y: middle - railPart.h / 2,
        run: "right",
        length: end - x,
        part: plan.railPart,
      });
    }
    const start = x;
    for (const item of row.items) {
      const part = parts.get(item.part);
      if (!part) throw new Error(`${item.tag}: no part ${item.part}`);
      x += item.gap ?? 0;
      const on = row.on === "rail" ? { rail: row.rail!, x: x - start } : { face: plan.face, x, y: middle - part.h / 2 };
      devices.push(deviceOf(item, on));
      x += item.width ?? part.w;
      if (x > end + 0.01) throw new Error(`${plan.face}: ${item.tag} reaches ${x} mm, the row ends at ${end}`);
    }
  });
  return { rails, ducts, devices };
}

export function deviceOf(item: Item, on: Device["on"]): Device {
  return {
    tag: item.tag,
    part: item.part,
    ...(on ? { on } : {}),
    ...(item.texts ? { texts: item.texts } : {}),
    ...(item.sheet ? { sheet: item.sheet } : {}),
    ...(item.when ? { when: item.when } : {}),
  };
}
