import Graph from "graphology";
import dijkstra from "graphology-shortest-path/dijkstra";
import type { Design } from "@gray-bench/core/design/model";
import { readDesign } from "@gray-bench/core/design/read";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { compute as panelOf } from "@gray-bench/core/panel/compute";
import { compute as routesOf } from "@gray-bench/core/routes/compute";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { LARGE, large } from "@gray-bench/designs/large";
import { held, sized } from "./short";

/** Detours off: the rival knows only shortest ways, and both must come to the same total length. */
const SHORTEST = { routes: { detourMostMm: 0, apart: [] } };

/** In the short form every panel is a small one. */
const design = (wires: number): Design => {
  const size = sized({ ...LARGE, wires }, { ...LARGE, enclosures: 2, wires: wires / 100 });
  const read = readDesign(JSON.stringify({ ...large(1, size), rules: SHORTEST }));
  if (!read.ok) throw new Error("the synthetic design was refused");
  return read.design;
};

const LEAST_RATIO = 6;

/** The quickest of several rounds: what else the machine does in that time only makes the others slower. */
function time<T>(work: () => T, rounds: number): { ms: number; result: T } {
  let [ms, result] = [Infinity, undefined as T | undefined];
  for (let i = 0; i < rounds; i++) {
    const start = performance.now();
    result = work();
    ms = Math.min(ms, performance.now() - start);
  }
  return { ms, result: result! };
}

/** Length through the network of every wire by the rival: one search per wire on the same network. */
function rival(result: RoutesResult): { ms: number; totalMm: number } {
  const graph = new Graph({ type: "undirected", multi: true });
  result.nodes.forEach((_, i) => graph.addNode(String(i)));
  for (const e of result.edges)
    graph.addUndirectedEdge(String(e.a), String(e.b), {
      weight: e.mm + (e.kind === "crossing" ? e.loopMm : 0),
    });
  const start = performance.now();
  let totalMm = 0;
  for (const w of result.wires) {
    const [from, to] = [w.from!.entry!, w.to!.entry!];
    // Both ends join the network as nodes of their own, as pins do.
    const place = (name: string, entry: typeof from): void => {
      graph.addNode(name);
      const piece = result.edges[entry.edge]!;
      for (const n of [piece.a, piece.b]) {
        const at = result.nodes[n]!;
        graph.addUndirectedEdge(name, String(n), {
          weight: Math.abs(at.x - entry.x) + Math.abs(at.y - entry.y),
        });
      }
    };
    place("from", from);
    place("to", to);
    if (from.edge === to.edge)
      graph.addUndirectedEdge("from", "to", { weight: Math.abs(from.x - to.x) + Math.abs(from.y - to.y) });
    const path = dijkstra.bidirectional(graph, "from", "to", "weight") as string[];
    for (let i = 1; i < path.length; i++) {
      let best = Infinity;
      graph.forEachUndirectedEdge(path[i - 1]!, path[i]!, (_e, a) => (best = Math.min(best, Number(a.weight))));
      totalMm += best;
    }
    graph.dropNode("from");
    graph.dropNode("to");
  }
  return { ms: performance.now() - start, totalMm };
}

const fixed = (n: number, d = 1): string => n.toFixed(d);

const [mode = "time"] = process.argv.slice(2);
if (mode === "time") {
  const d = design(10_000);
  const panel = panelOf(d);
  routesOf(d, SHOP_RULES, panel);
  const ours = time(() => routesOf(d, SHOP_RULES, panel), 11);
  const way = ours.result.wires.reduce((s, w) => s + w.terms!.way + w.terms!.loops, 0);
  const [one, two] = [rival(ours.result), rival(ours.result)];
  const theirs = one.ms < two.ms ? one : two;
  console.log(
    `routes, ${ours.result.wires.length} wires, ${ours.result.nodes.length} nodes, ${ours.result.edges.length} edges`,
  );
  console.log(`  ours (whole stage)            ${fixed(ours.ms)} ms`);
  console.log(`  rival (graphology, per wire)  ${fixed(theirs.ms)} ms`);
  console.log(`  ratio                         ${fixed(theirs.ms / ours.ms)}   bound: at least ${LEAST_RATIO}`);
  console.log(
    `  total through the network     ours ${fixed(way, 3)} mm, rival ${fixed(theirs.totalMm, 3)} mm, difference ${fixed(Math.abs(way - theirs.totalMm), 3)} mm`,
  );
  console.log("time per wire, whole stage");
  const per: number[] = [];
  for (const wires of [1000, 10_000, 50_000]) {
    const big = design(wires);
    const placed = panelOf(big);
    routesOf(big, SHOP_RULES, placed);
    const { ms } = time(() => routesOf(big, SHOP_RULES, placed), 3);
    per.push((ms * 1000) / wires);
    console.log(
      `  ${String(wires).padStart(6)} wires   ${fixed(ms).padStart(8)} ms   ${fixed(per.at(-1)!).padStart(6)} µs per wire`,
    );
  }
  console.log(`  50,000 against 10,000, per wire  ${fixed(per[2]! / per[1]!, 2)}   bound: at most 1.5 (1 is linear)`);
  const ok = theirs.ms / ours.ms >= LEAST_RATIO && Math.abs(way - theirs.totalMm) < 1 && per[2]! / per[1]! <= 1.5;
  held(ok);
} else {
  // Alone in a process of its own: reading, placing and routing the synthetic panel.
  const d = design(10_000);
  const result = routesOf(d, SHOP_RULES, panelOf(d));
  const peakMb = process.resourceUsage().maxRSS / 1024;
  console.log(
    `peak memory, 10,000 wires       ${fixed(peakMb, 0)} MB   bound: under 400 (${result.wires.length} wires routed)`,
  );
  held(peakMb < 400);
}
