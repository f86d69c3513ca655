import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { mendTogether } from "@gray-bench/core/frame/act";
import { commonCauses, groupPoints } from "./groups";

const point = (severity: OpenPoint["severity"], kind: string, of: string): OpenPoint => ({
  id: of,
  stage: "routes",
  severity,
  kind,
  thing: "wire",
  of,
  text: "",
  remedy: "",
});

test("stops first; within a severity by kind, in the order found", () => {
  const groups = groupPoints([
    point("check", "no colour", "1"),
    point("stop", "no way", "2"),
    point("check", "no colour", "3"),
    point("note", "x", "4"),
  ]);
  expect(groups.map((g) => [g.severity, g.kind, g.points.map((p) => p.of)])).toEqual([
    ["stop", "no way", ["2"]],
    ["check", "no colour", ["1", "3"]],
    ["note", "x", ["4"]],
  ]);
});

test("a cause is told once for several; what asks the same is settled together, else each by itself", () => {
  const cause = (text: string) => ({ cause: { text, mends: [] } });
  const of = (text: string, n: string) => ({ ...point("stop", "unknown device", n), ...cause(text) });
  const points = [
    of("-K9", "1"),
    of("-K8", "2"),
    of("-K9", "3"),
    { ...of("-K8", "4"), accepted: { who: "M", why: "w" } },
  ];
  expect(commonCauses(points).map((c) => [c.cause.text, c.points.map((p) => p.of)])).toEqual([["-K9", ["1", "3"]]]);
  const mend = (n: string, label = "Colour") => ({
    ...point("check", "no colour", n),
    mend: {
      label,
      kind: "set wires",
      payload: { wires: [n] },
      asks: [{ field: "colour", label: "Colour", as: "colour" as const }],
    },
  });
  expect(mendTogether([mend("1"), mend("2")])?.payloads).toEqual([{ wires: ["1"] }, { wires: ["2"] }]);
  expect([mendTogether([mend("1")]), mendTogether([mend("1"), mend("2", "Size")]), mendTogether(points)]).toEqual([
    null,
    null,
    null,
  ]);
});
