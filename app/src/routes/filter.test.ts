import type { Colours } from "@gray-bench/core/wiring/landings";
import type { RoutesResult, WireRoute } from "@gray-bench/core/routes/result";
import { filterWires, valuesOf, type WireFilter } from "./filter";

const wire = (id: string, more: Partial<WireRoute>): WireRoute =>
  ({
    id,
    net: "n",
    class: "control",
    fromRef: { device: "-K1", pin: "A1" },
    toRef: { device: "-K2", pin: "A2" },
    from: { face: "+A1/plate" },
    to: { face: "+A1/door" },
    lengthMm: 100,
    marks: [],
    way: null,
    ...more,
  }) as unknown as WireRoute;

const result = {
  edges: [{ kind: "crossing", tag: "D1" }],
  wires: [
    wire("1", { lengthMm: 300 }),
    wire("2", { fromRef: { device: "-K10", pin: "11" }, class: "signal", marks: ["no-tail"] }),
    wire("3", {
      lengthMm: null,
      from: null,
      marks: ["no-way"],
      to: { face: "+A2/plate" } as WireRoute["to"],
    }),
    wire("10", { lengthMm: 500, way: { first: 0, edges: [0] }, net: "PE" }),
  ],
} as unknown as RoutesResult;

const colours: Colours = new Map([
  ...["1", "2", "10"].map((id) => [id, { value: "BU", origin: "net" }] as const),
  ["3", null],
]);

const ids = (f: WireFilter): string[] => filterWires(result, colours, f).map((w) => w.id);

test.each<[WireFilter, string[]]>([
  [{}, ["1", "2", "3", "10"]],
  [{ q: "-k10" }, ["2"]],
  [{ q: "1" }, ["1", "2", "3", "10"]],
  [{ q: "1*" }, ["1", "10"]],
  [{ class: "signal" }, ["2"]],
  [{ colour: "none" }, ["3"]],
  [{ enclosure: "+A2" }, ["3"]],
  [{ device: "-K10" }, ["2"]],
  [{ net: "PE" }, ["10"]],
  [{ crossing: "D1" }, ["10"]],
  [{ show: "open" }, ["3"]],
  [{ show: "fallback" }, ["2"]],
  [{ show: "marked" }, ["2", "3"]],
  // Words of an address that are none of ours.
  [{ show: "anything" as "all" }, ["1", "2", "3", "10"]],
  [{ show: "toString" as "all" }, ["1", "2", "3", "10"]],
  [{ sort: "length" }, ["10", "1", "2", "3"]],
  [{ sort: "from" }, ["1", "3", "10", "2"]],
])("%j", (filter, expected) => {
  expect(ids(filter)).toEqual(expected);
});

test("the choices are what occurs", () => {
  expect(valuesOf(result, colours)).toEqual({
    enclosure: ["+A1", "+A2"],
    class: ["control", "signal"],
    colour: ["BU", "none"],
  });
});
