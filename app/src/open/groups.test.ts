import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { groupPoints } from "./groups";

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
