import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { STOCK_FORMAT, STOCK_VERSION, type Delivery, type Stock } from "@gray-bench/core/design/stock";
import { LIBRARY } from "./library";

/** What the simulated stock service begins with. */
export interface StockData {
  items: { part: string; text: string; place: string; pack: number; level: number }[];
  deliveries: Delivery[];
}

/** Measured in metres: bars and reels. */
const METRES = new Set(["rail", "duct", "wire", "cable"]);

/** What there is less of than the two jobs want. */
const SCARCE: Readonly<Record<string, number>> = {
  // Two of the six small contactors: the larger one would do, and there are plenty.
  "OH-K9": 2,
  "OH-VD18": 0,
  "TT-CU1000": 0,
  "FW-R6": 10,
  "BL-W1BU": 60,
  "QM-PL": 3,
};

const DELIVERIES: Delivery[] = [
  { part: "OH-VD18", quantity: 1, due: "2027-01-22" },
  { part: "BL-W1BU", quantity: 300, due: "2026-12-14" },
  { part: "QM-PL", quantity: 20, due: "2027-01-11" },
  { part: "FW-T2", quantity: 200, due: "2026-12-04" },
];

/** The store of the demo: enough of most, too little of some, nothing known of the horn. */
export function demoStock(): StockData {
  const parts = LIBRARY.flatMap((p) =>
    p.stock
      ? [
          {
            part: p.number,
            text: p.text,
            place: p.stock.place,
            pack: p.stock.pack,
            level: SCARCE[p.number] ?? (METRES.has(p.category) ? 400 : Math.max(30, 6 * p.stock.pack)),
          },
        ]
      : [],
  );
  const articles = SHOP_RULES.kits.articles.flatMap(({ article, number, place, pack = 1 }) =>
    number === undefined || place === undefined ? [] : [{ part: number, text: article, place, pack, level: 20 * pack }],
  );
  return { items: [...parts, ...articles], deliveries: DELIVERIES };
}

/** The same for making files without a service. */
export const demoStockFile = (): Stock => ({
  format: STOCK_FORMAT,
  version: STOCK_VERSION,
  at: "2026-11-26T06:00:00Z",
  items: demoStock().items.map(({ part, level }) => ({ part, free: level })),
  deliveries: DELIVERIES,
  reserved: [],
});
