import type { Design } from "../design/model";
import type { Rules } from "../shop/rules";
import { pieceFor, wireEnds } from "../wiring/wire-ends";
import { labelFor } from "./leads";

/** Which wires each row of a table takes now, by the table's place. O(wires · rows) */
export const RULE_USE: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>> = {
  "wireprep.pieces": (design, shop) => {
    const { pieces } = shop.wireprep;
    const used = pieces.map(() => new Set<string>());
    for (const { wire, end, sizeMm2 } of wireEnds(design, shop)) {
      const piece = end === null || end === "bare" ? undefined : pieceFor(end, sizeMm2, pieces);
      if (piece) used[pieces.indexOf(piece)]!.add(wire);
    }
    return used.map((ids) => [...ids]);
  },
  "wireprep.labels": (design, shop) => {
    const { labels } = shop.wireprep;
    const used = labels.map(() => new Set<string>());
    for (const { wire, sizeMm2 } of wireEnds(design, shop)) used[labels.indexOf(labelFor(sizeMm2, labels))]?.add(wire);
    return used.map((ids) => [...ids]);
  },
};
