import { designChanges } from "./design/changes";
import type { Design } from "./design/model";
import { cellText } from "./shop/shop-changes";
import { FILES } from "./files";
import { runStages } from "./run";
import { RULES } from "./rules";
import { STAGES } from "./stages";
import { EVERYTHING } from "./test/everything";
import { golden } from "./test/golden";

test("what rules, figures and files are called, word for word", () => {
  const { stages } = runStages(EVERYTHING);
  const lines = [
    "# rules",
    ...RULES.flatMap(({ stage, place, rule }) => [
      `${place} (${stage}): ${rule.text}`,
      `  ${rule.why} {${rule.source}}`,
      ...(rule.as === "number"
        ? [`  ${rule.default} ${rule.unit}, ${rule.min} to ${rule.max}`]
        : rule.as === "text"
          ? [`  "${rule.default}", up to ${rule.most} characters`]
          : [
              `  ${rule.ordered ? "the first row that fits counts" : "in any order"}`,
              ...rule.columns.map(
                (c) =>
                  `  ${c.key}: ${c.label}, ${c.as}${c.choices ? ` of ${c.choices.join(" ")}` : ""}${c.unit ? `, ${c.min} to ${c.max} ${c.unit}` : ""}${c.needed ? ", needed" : ""}; none is "${cellText(c, undefined)}"`,
              ),
              ...rule.rows(rule.default).map((row) => `  ${JSON.stringify(row)}`),
            ]),
    ]),
    "# figures",
    ...STAGES.flatMap((s) => s.figures(stages[s.name] as never).map((f) => `${s.name}: ${JSON.stringify(f)}`)),
    "# files",
    ...FILES.map((f) => `${f.name} (${f.stage}): ${f.text}`),
  ];
  golden("words.txt", lines.join("\n"));
});

describe("what differs between two designs", () => {
  const of = (change: (d: Design) => Partial<Design>): string[] =>
    designChanges(EVERYTHING, { ...EVERYTHING, ...change(EVERYTHING) }).map(
      (c) => `${c.thing}: +${c.added.join(",")} -${c.gone.join(",")} ~${c.changed.join(",")}`,
    );

  test("nothing, also when things stand in another order", () => {
    expect(of(() => ({}))).toEqual([]);
    expect(of((d) => ({ wires: [...d.wires].reverse(), devices: [...d.devices].reverse() }))).toEqual([]);
    expect(of((d) => ({ nets: d.nets.map((n) => ({ ...n })) }))).toEqual([]);
  });

  test("of each kind of thing what is new, gone and changed", () => {
    expect(of((d) => ({ wires: [...d.wires.slice(1), { number: "new" }] }))).toEqual(["wire: +new -beside ~"]);
    expect(of((d) => ({ nets: d.nets.map((n) => (n.name === "24" ? { ...n, sizeMm2: 6 } : n)) }))).toEqual([
      "net: + - ~24",
    ]);
    expect(
      of((d) => ({
        enclosures: d.enclosures.map((e) => ({ ...e, d: 600 })),
        rails: [],
        ducts: d.ducts.slice(1),
        crossings: d.crossings.slice(1),
        parts: d.parts.slice(1),
        strips: [{ tag: "-X1", rail: "rail", members: [] }],
        options: [{ key: "o", text: "o", choices: ["a"], chosen: "a" }],
        cables: [{ tag: "-W1", type: "C", cores: [] }],
      })),
    ).toEqual([
      "enclosure: + - ~+A1,+A2",
      "rail: + -rail ~",
      "duct: + -low ~",
      "crossing: + -H1 ~",
      "cable: +-W1 - ~",
      expect.stringMatching(/^part: \+ -\S+ ~$/),
      "strip: +-X1 - ~",
      "option: +o - ~",
    ]);
  });

  test("what another choice brings in is new, though it stood in the file", () => {
    const when = { o: "a" };
    const [a, b] = ["a", "b"].map((chosen): Design => ({
      ...EVERYTHING,
      options: [{ key: "o", text: "o", choices: ["a", "b"], chosen }],
      devices: EVERYTHING.devices.map((d) => (d.tag === "-A" ? { ...d, when } : d)),
    }));
    expect(designChanges(b!, a!).map((c) => [c.thing, c.added, c.changed])).toEqual([
      ["device", ["-A"], []],
      ["option", [], ["o"]],
    ]);
  });
});
