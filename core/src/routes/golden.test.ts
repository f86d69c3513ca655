import type { Design } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import type { Working } from "../frame/working";
import { compute as panel } from "../panel/compute";
import { golden, pointLines } from "../test/golden";
import { EVERYTHING } from "../test/everything";
import { compute } from "./compute";
import { explain, type Subject } from "./explain";
import { files } from "./files";
import type { RoutesResult } from "./result";
import { wayInWords } from "./way";

/** Everything the stage says. The file has been read through by a person; its numbers follow from docs/calculations/routes.md. */
function workingLines(w: Working): string[] {
  return [
    `${w.title}: ${w.total} ${w.unit}`,
    ...w.terms.map((t) => {
      const about = [
        t.value === undefined ? null : `= ${Math.round(t.value * 1e6) / 1e6}`,
        t.detail && `[${t.detail}]`,
        t.source && `{${t.source}}`,
        t.fallback ? "fallback" : null,
        t.link && `-> ${t.link.thing} ${t.link.of}`,
      ];
      return `  ${t.text} ${about.filter(Boolean).join(" ")}`;
    }),
  ];
}

function everything(design: Design, result: RoutesResult): string[] {
  const ask = (subject: Subject): string[] => workingLines(explain(result, subject, { design, shop: SHOP_RULES })!);
  return [
    "# wires",
    ...result.wires.flatMap((w) => [
      `${w.id}: ${w.lengthMm} mm, ${w.class}, ${w.strand}, outer ${w.outerMm}, ${w.endFrom} / ${w.endTo}, shortest ${w.shortestMm}`,
      `  ${w.noWay ?? wayInWords(result, w)}`,
      `  ${w.marks.join(" ") || "no marks"}`,
      ...ask({ of: "length", wire: w.id }),
      ...ask({ of: "colour", wire: w.id }),
      ...ask({ of: "size", wire: w.id }),
      "",
    ]),
    "# pieces",
    ...result.edges.flatMap((e) => {
      if (e.kind !== "piece") return [];
      const worst = e.worst && `${e.worst.fromMm} to ${e.worst.toMm}: ${e.worst.wires}`;
      return [`${e.id} ${e.mm} mm, ${e.wires} wires, ${e.usedMm2} mm2, ${e.state}, worst ${worst}`].concat(
        ask({ of: "fill", piece: e.id }),
      );
    }),
    "# joints and crossings",
    ...result.edges.flatMap((e) => {
      if (e.kind === "piece") return [];
      return e.kind === "joint"
        ? [`${e.ducts.join(" ")} ${e.mm} mm`]
        : [`${e.tag} ${e.way} ${e.mm} mm, loop ${e.loopMm}`];
    }),
    "# ducts",
    ...result.ducts.map((d) => `${d.tag} on ${d.face}: ${d.pieces.join(" ")}, worst ${d.worst}`),
    `total ${result.totalMm} mm`,
    "# open points",
    ...pointLines(result.open),
  ];
}

test("everything the stage says of a design with all kinds of ways, word for word", async () => {
  const result = compute(EVERYTHING, SHOP_RULES, panel(EVERYTHING));
  golden("routes.txt", everything(EVERYTHING, result).join("\n"));
  const tables = (await files(result, EVERYTHING, SHOP_RULES)).filter((f) => f.name.endsWith(".csv"));
  expect(tables.map((t) => t.name)).toEqual(["wires.csv", "ducts.csv"]);
  for (const t of tables) golden(t.name, new TextDecoder().decode(t.bytes));
});
