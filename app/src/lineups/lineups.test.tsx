import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/design/rules";
import { EDITS } from "@gray-bench/core/edits";
import { compute } from "@gray-bench/core/lineups/compute";
import { membersOf } from "@gray-bench/core/lineups/result";
import { screen, within } from "@testing-library/react";
import type { Act, Shaped } from "../edits/act";
import { page } from "../test/page";
import { LineupsView } from "./LineupsView";
import { dropJumper, dropWires, joinAct, memberActs, movedBy, takeJumper } from "./stripActs";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/larkmoor.bench.json"), "utf8")) as Design;
const result = compute(LARK, SHOP_RULES);
const x2 = result.strips.find((s) => s.tag === "-X2")!;

describe("the view of strips", () => {
  test("members stand in order with what lies inside and outside; accessories between", () => {
    page(<LineupsView job="LARK-2601" result={result} strip="-X2" />);
    const rows = within(screen.getByTestId("members")).getAllByRole("listitem");
    // 14 terminals, two end stops, one end plate.
    expect(rows).toHaveLength(17);
    expect(rows[0]!.textContent).toContain("end stop FW-ES");
    expect(screen.getByTestId("member--X2.1").textContent).toMatch(
      /218 .*X2\.2:a.*421 .*A14:1.*1FW-T2.*W61\.1 grid limit switches:1/,
    );
    expect(screen.getByTestId("strip-sum").textContent).toContain(
      "90.3 mm with accessories; the rail has 473.7 mm more",
    );
    expect(screen.getByTestId("strip--X2").getAttribute("aria-current")).toBe("true");
    for (const n of [1, 2, 3, 4]) screen.getByTestId(`jumper--X2.${n}-1`);
    expect(screen.queryByTestId("jumper--X2.5-1")).toBeNull();
  });

  test("the chosen member shows what can be done with it; the strip it stands on is shown", () => {
    page(<LineupsView job="LARK-2601" result={result} member="-X3.1" />);
    expect(screen.getByTestId("member--X3.1").textContent).toContain("REL 1");
    const details = within(screen.getByTestId("member-details"));
    for (const id of ["edit-place-to", "edit-print", "edit-side", "edit-split", "member-up", "member-down"])
      details.getByTestId(id);
    expect(details.getByTestId("member-up").getAttribute("aria-disabled")).toBe("true");
    expect(details.queryByTestId("edit-fuse")).toBeNull();
  });

  test("jumpers are listed with the wires they make needless, and those that are proposed", () => {
    page(<LineupsView job="LARK-2601" result={result} strip="-X2" />);
    const jumpers = screen.getByTestId("jumpers").textContent!;
    expect(jumpers).toMatch(/row 1: .*X2\.1 to .*X2\.4, 4 joined/);
    expect(screen.getByTestId("needless-1--X2.1").textContent).toContain("3 needless wires");
    expect(jumpers).toMatch(
      /row 1: .*X2\.5 to .*X2\.14, 10 joined, P24\.8, FW-.C10\.2 cut to 10 teeth; makes 9 wires needless/,
    );
  });

  test("a design without strips says so", () => {
    page(<LineupsView job="LARK-2601" result={{ strips: [], open: [] }} />);
    expect(screen.getByTestId("empty").textContent).toContain("names no strips");
  });
});

describe("what can be done with strips", () => {
  const shaped = (act: Act, values: Record<string, string | number>): Shaped =>
    act.shape!({ values, set: new Set(Object.keys(values)) });
  /** What an act lays must be an edit that fits. */
  const fits = (kind: string, payload: object): boolean => {
    expect(EDITS.faults(kind, payload)).toEqual([]);
    return EDITS.apply(LARK, { kind, payload }).ok;
  };
  const actsOf = (tag: string): Map<string, Act> =>
    new Map(
      memberActs(
        x2,
        membersOf(x2).find((m) => m.tag === tag)!,
      ).map((a) => [a.id, a]),
    );

  test("every act makes an edit that fits the design", () => {
    const acts = actsOf("-X2.5");
    for (const [id, values] of [
      ["place-to", { place: 1 }],
      ["print", { text: "S5" }],
      ["side", { conductor: "wire 425", side: "outside" }],
    ] as const) {
      const made = shaped(acts.get(id)!, values);
      expect(made.ok && fits(acts.get(id)!.kind, made.payload)).toBe(true);
    }
    expect(fits("split strip", { ...acts.get("split")!.payloads[0], to: "-X9" })).toBe(true);
    for (const act of [
      takeJumper("-X2", x2.proposed[0]!),
      dropJumper("-X2", x2.jumpers[0]!),
      dropWires(x2.jumpers[0]!),
    ])
      expect(fits(act.kind, act.payloads[0]!)).toBe(true);
    expect(fits("join strips", { ...joinAct("-X2", ["-X3"]).payloads[0], with: "-X3" })).toBe(true);
  });

  test("moving keeps all members, and stays on the strip", () => {
    const members = membersOf(x2);
    const tags = members.map((m) => m.tag);
    expect(movedBy(members, "-X2.1", 1).slice(0, 3)).toEqual(["-X2.2", "-X2.1", "-X2.3"]);
    expect(movedBy(members, "-X2.14", 5)).toEqual(tags);
    expect(movedBy(members, "-X2.3", -9)[0]).toBe("-X2.3");
    expect([...movedBy(members, "-X2.3", 4)].sort()).toEqual([...tags].sort());
  });

  test("a place that is not there is refused in the field", () => {
    const act = actsOf("-X2.5").get("place-to")!;
    expect(shaped(act, { place: 15 })).toEqual({ ok: false, field: "place", reason: "Places go from 1 to 14." });
    expect(shaped(actsOf("-X2.5").get("side")!, { conductor: "wire 425" })).toMatchObject({ ok: false, field: "side" });
  });
});
