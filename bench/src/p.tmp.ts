import { readDesign } from "@gray-bench/core/design/read";
import { SHOP_RULES } from "@gray-bench/core/design/rules";
import { compute as panelOf } from "@gray-bench/core/panel/compute";
import { compute as routesOf } from "@gray-bench/core/routes/compute";
import { LARGE, large } from "@gray-bench/designs/large";
const read = readDesign(JSON.stringify({ ...large(1, { ...LARGE, wires: 10000 }), rules: { routes: { detourMostMm: 0, apart: [] } } }));
if (!read.ok) throw 1;
const panel = panelOf(read.design);
for (let i = 0; i < 20; i++) { const t = performance.now(); routesOf(read.design, SHOP_RULES, panel); if (i>14) console.log((performance.now() - t).toFixed(0)); }
