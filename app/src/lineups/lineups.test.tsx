import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { EDITS } from "@gray-bench/core/edits";
import { compute } from "@gray-bench/core/lineups/compute";
import { membersOf, type LineupsResult } from "@gray-bench/core/lineups/result";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import type { Act, Shaped } from "@gray-bench/core/frame/act";
import { page, serve } from "../test/page";
import { waitingHere } from "../test/waiting";
import { piecesToHang } from "./Assembly";
import { LineupsView, type LineupsChoice } from "./LineupsView";
import {
  bridgeAct,
  dropJumper,
  dropWires,
  joinAct,
  makeAct,
  manyActs,
  memberActs,
  movedAct,
  movedBy,
  movedTo,
  nextTag,
  orderAct,
  placeNow,
  stripActs,
  takeJumper,
} from "@gray-bench/core/lineups/acts";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));
jest.mock("../kit/Dragging", () => jest.requireActual<object>("../test/dragging"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
const result = compute(LARK, SHOP_RULES);
const rules = SHOP_RULES.lineups;
const strip = (tag: string) => result.strips.find((s) => s.tag === tag)!;
const member = (tag: string) => result.strips.flatMap(membersOf).find((m) => m.tag === tag)!;
const x2 = strip("-X2");

// Rows in sight are measured; here everything is as high as a phone.
beforeAll(() => {
  jest.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(844);
  jest.spyOn(Element.prototype, "clientWidth", "get").mockReturnValue(390);
  HTMLElement.prototype.scrollIntoView = () => undefined;
});
afterAll(() => jest.restoreAllMocks());

const view = (choice: LineupsChoice, of: LineupsResult = result, design = LARK) =>
  page(<LineupsView job="LARK-2601" result={of} design={design} rules={rules} routes={undefined} choice={choice} />);

describe("the view of strips", () => {
  test("members stand in order with what lies inside and outside; accessories between", () => {
    view({ strip: "-X5" });
    const rows = within(screen.getByTestId("members")).getAllByRole("listitem");
    expect(rows.slice(0, 6).map((r) => r.textContent!.replace(/\u2060/g, ""))).toEqual([
      "end stop FW-ES · begins the strip",
      expect.stringMatching(/515 -F3:2.*1FW-TFfuse 2 A.*-W66\.1 trap:1/) as string,
      expect.stringMatching(/2FW-TFfuse 4 A.*-W66\.2 trap:2/) as string,
      expect.stringMatching(/3FW-TFno fuse.*-W66\.3 trap:3/) as string,
      "end plate FW-TFE · closes the open side of -X5.3",
      expect.stringMatching(/K81FW-R6/) as string,
    ]);
    expect(screen.getByTestId("strip-line").textContent).toContain(
      "laid · 87.6 mm with accessories; 412.4 mm of the rail stay free",
    );
    expect(screen.getByTestId("strip--X5").getAttribute("aria-current")).toBe("true");
    for (const n of [1, 2, 3]) screen.getByTestId(`jumper--X5.${n}-1`);
    expect(screen.queryByTestId("jumper--X5.4-1")).toBeNull();
  });

  test("the chosen member shows what lands on it and what can be done; the strip it stands on is shown", () => {
    view({ member: "-X3.1" });
    expect(screen.getByTestId("strip--X3").getAttribute("aria-current")).toBe("true");
    const details = within(screen.getByTestId("member-details"));
    for (const id of ["place-to", "print", "side", "swap", "land", "piece", "like", "off", "split", "sheet"])
      details.getByTestId(`edit-${id}`);
    expect(details.getByTestId("member-up").getAttribute("aria-disabled")).toBe("true");
    expect(details.queryByTestId("edit-fuse")).toBeNull();
  });

  test("several are chosen by taps, and have a bar of what can be done with them", () => {
    view({ strip: "-X2" });
    fireEvent.click(screen.getByTestId("several"));
    for (const n of [6, 7]) fireEvent.click(screen.getByTestId(`member--X2.${n}`));
    const bar = within(screen.getByTestId("many"));
    bar.getByText("2 members chosen");
    for (const id of ["bridge", "together", "place-to", "swap", "copy", "off"]) bar.getByTestId(`many-${id}`);
  });

  test("jumpers are listed with the wires they make needless, and those that are proposed", () => {
    view({ strip: "-X2", show: "jumpers" });
    const jumpers = screen.getByTestId("jumpers").textContent!;
    expect(jumpers).toMatch(/row 1: .*X2\.1 to .*X2\.4, 4 joined, P24\.8, 6 A/);
    expect(screen.getByTestId("jumper-wires-1--X2.1").textContent).toContain("3 needless wires");
    expect(jumpers).toMatch(/row 1: .*X2\.5 to .*X2\.14, 10 joined, P24\.8, 6 A, comb FW-.C10\.2, cut to 10 teeth/);
    expect(jumpers).toContain("makes 9 wires needless");
  });

  test("cables show their cores with both ends", () => {
    view({ strip: "-X5", show: "cables", cable: "-W67" });
    expect(screen.getByTestId("cable--W67").getAttribute("aria-current")).toBe("true");
    const rows = within(screen.getByTestId("cables")).getAllByRole("listitem");
    expect(rows.map((r) => r.textContent!.replace(/\u2060/g, ""))).toEqual([
      "1BN 1.5 mm²-X5.7:clights:1",
      "2BU 1.5 mm²-X5.8:clights:2",
      "GNYEGNYE 1.5 mm²-X5.PE1:blights:GNYE",
    ]);
    screen.getByLabelText("Section of -W67: 1 BN, 2 BU, GNYE GNYE");
  });

  test("a better order is told with what it is better by", () => {
    view({ strip: "-X5", show: "strip" });
    expect(screen.getByTestId("orders").textContent).toContain("Now 3 crossings of cores, and 1 piece");
    expect(screen.getByTestId("order-any").textContent).toMatch(/1 crossing, 1 piece; compared with all orders/);
    within(screen.getByTestId("order-any")).getByTestId("take-order-any");
  });

  test("a design without strips says so; a strip that is not there too", () => {
    view({}, { ...result, strips: [] }, { ...LARK, strips: [] });
    expect(screen.getByTestId("empty").textContent).toContain("names no strips");
    view({ strip: "-X99" });
    screen.getByText("-X99 is not here");
  });

  test("pieces are ticked off, and wait when there is no server", async () => {
    const hung = { id: "tick-0001", list: "strip -X5", item: "end stop FW-ES behind nothing", what: "ticked" };
    const answers: Record<string, [number, unknown]> = {
      "POST /api/jobs/LARK-2601/events": [
        200,
        { events: [{ ...hung, who: "B", at: "2026-11-30T08:00:00Z" }], last: 1 },
      ],
    };
    serve(answers);
    view({ strip: "-X5", show: "assembly" });
    expect((await screen.findByText("1 of 17 hung")).textContent).toBeTruthy();
    answers["POST /api/jobs/LARK-2601/events"] = [503, { code: "server.busy", message: "", where: "", remedy: "" }];
    fireEvent.click(screen.getByTestId("piece-2"));
    screen.getByText("2 of 17 hung");
    expect(screen.getByTestId("assembly-waiting").textContent).toContain("1 ticks wait");
    await waitFor(async () =>
      expect(await waitingHere()).toMatchObject([{ event: { item: "-X5.1 FW-TF", what: "ticked" } }]),
    );
  });
});

test("the assembly sheet has every piece once, told apart by place and part, then the jumpers", () => {
  for (const s of result.strips) {
    const pieces = piecesToHang(s);
    expect(pieces).toHaveLength(s.items.length + s.jumpers.length);
    expect(new Set(pieces.map((p) => p.id)).size).toBe(pieces.length);
  }
  expect(piecesToHang(strip("-X5")).slice(-1)[0]!.more).toBe("-X5.1 to -X5.3, comb FW-C3.4, cut to 3 teeth");
});

describe("what can be done with strips", () => {
  const shaped = (act: Act, values: Record<string, string | number>): Shaped =>
    act.shape!({ values, set: new Set(Object.keys(values)) });
  /** What an act lays must be an edit that fits. */
  const fits = (kind: string, payload: object): boolean => {
    expect(EDITS.faults(kind, payload)).toEqual([]);
    const applied = EDITS.apply(LARK, { kind, payload });
    if (!applied.ok) throw new Error(applied.reason);
    return true;
  };
  const byId = (acts: Act[]): Map<string, Act> => new Map(acts.map((a) => [a.id, a]));
  const made = (act: Act, values: Record<string, string | number>): boolean => {
    const got = shaped(act, values);
    if (!got.ok) throw new Error(got.reason);
    return fits(act.kind, got.payload);
  };

  test("every act of a member makes an edit that fits the design", () => {
    const acts = byId(memberActs(x2, member("-X2.5"), LARK));
    const answers: Record<string, Record<string, string | number>> = {
      "place-to": { place: 1 },
      print: { text: "S5" },
      side: { conductor: "wire 425", side: "outside" },
      land: { conductor: "wire 425 at b", to: "-X2.5:d, level 2" },
      piece: { piece: "separator", hung: "is hung" },
      like: { tag: "-X2.15" },
      off: { gone: "stays in the design" },
    };
    for (const [id, values] of Object.entries(answers)) expect([id, made(acts.get(id)!, values)]).toEqual([id, true]);
    for (const id of ["swap", "sheet"]) expect(fits(acts.get(id)!.kind, acts.get(id)!.payloads[0]!)).toBe(true);
    expect(fits("split strip", { ...acts.get("split")!.payloads[0], to: "-X9" })).toBe(true);
    const earth = byId(memberActs(strip("-X5"), member("-X5.PE2"), LARK));
    expect(fits("keep together", earth.get("let-go")!.payloads[0]!)).toBe(true);
  });

  test("every act of several members, and of the whole strip", () => {
    const many = byId(manyActs(x2, ["-X2.7", "-X2.6"]));
    expect(made(many.get("bridge")!, { row: "1" })).toBe(true);
    expect(made(many.get("place-to")!, { place: 15 })).toBe(true);
    expect(made(many.get("copy")!, { from: "-X2.1", what: "all of these" })).toBe(true);
    expect(made(many.get("off")!, { gone: "stays in the design" })).toBe(true);
    for (const id of ["together", "swap"]) expect(fits(many.get(id)!.kind, many.get(id)!.payloads[0]!)).toBe(true);
    expect(byId(manyActs(x2, ["-X2.7", "-X2.9"])).has("together")).toBe(false);
    expect(manyActs(x2, [])).toEqual([]);
    const whole = byId(stripActs(x2, ["-X3"], LARK, rules));
    expect(made(whole.get("lay")!, { rail: "R5", at: 300 })).toBe(true);
    expect(made(whole.get("renumber")!, { by: "part by part", from: 21, step: 2, start: 10 })).toBe(true);
    expect(made(whole.get("add")!, { tags: "-X2.15, -X2.16", part: "FW-T2", behind: "-X2.3" })).toBe(true);
    expect(fits("lift strip", whole.get("lift")!.payloads[0]!)).toBe(true);
    expect(fits("join strips", { ...joinAct("-X2", ["-X3"]).payloads[0], with: "-X3" })).toBe(true);
    expect(made(makeAct(LARK), { strip: "-X30", rail: "R1", tags: "-F1, -F2" })).toBe(true);
    expect(fits("order strip", orderAct(strip("-X5"), "any").payloads[0]!)).toBe(true);
    expect(fits("order strip", movedAct("-X2", movedBy(membersOf(x2), "-X2.1", 3)).payloads[0]!)).toBe(true);
    for (const act of [
      takeJumper("-X2", x2.proposed[0]!),
      dropJumper("-X2", x2.jumpers[0]!),
      dropWires(x2.jumpers[0]!, "1.1 m"),
    ])
      expect(fits(act.kind, act.payloads[0]!)).toBe(true);
  });

  test("what is missing or wrong is refused in its field", () => {
    const refusal = (act: Act, values: Record<string, string | number>): string | undefined => {
      const got = shaped(act, values);
      return got.ok ? "taken" : got.field;
    };
    const acts = byId(memberActs(x2, member("-X2.5"), LARK));
    const whole = byId(stripActs(x2, [], LARK, rules));
    const many = byId(manyActs(x2, ["-X2.7", "-X2.6"]));
    expect([
      refusal(acts.get("place-to")!, { place: 15 }),
      refusal(acts.get("side")!, { conductor: "wire 425" }),
      refusal(acts.get("land")!, { conductor: "wire 425 at b" }),
      refusal(acts.get("land")!, { to: "-X2.5:d, level 2" }),
      refusal(acts.get("piece")!, { piece: "end stop" }),
      refusal(acts.get("off")!, {}),
      refusal(whole.get("add")!, { tags: " , " }),
      refusal(whole.get("add")!, { tags: "a, a" }),
      refusal(whole.get("renumber")!, { from: 1 }),
      refusal(many.get("place-to")!, { place: 16 }),
      refusal(many.get("bridge")!, {}),
      refusal(many.get("copy")!, { what: "part" }),
      refusal(makeAct(LARK), { strip: "-X30", tags: "-F1" }),
    ]).toEqual([
      "place",
      "side",
      "to",
      "conductor",
      "hung",
      "gone",
      "tags",
      "tags",
      "by",
      "place",
      "row",
      "from",
      "rail",
    ]);
    expect(byId(stripActs(x2, [], LARK, rules)).has("join")).toBe(false);
  });

  test("the preview of new numbers names them and counts what goes with them", () => {
    const act = byId(stripActs(strip("-X3"), [], LARK, rules)).get("renumber")!;
    const note = act.note!({ values: { by: "all in a row", from: 5, step: 1, start: 10 }, set: new Set(["by"]) })!;
    expect(note).toMatch(/^-X3\.1 becomes -X3\.5, .*-X3\.6 becomes -X3\.10\. \d+ wires and 5 cores/);
    expect(act.note!({ values: { by: "all in a row", from: 1, step: 1, start: 10 }, set: new Set(["by"]) })).toBe(
      "Nothing would get another number.",
    );
  });

  test("moving keeps all members and their order among themselves", () => {
    const members = membersOf(x2);
    const tags = members.map((m) => m.tag);
    expect(movedBy(members, "-X2.1", 1).slice(0, 3)).toEqual(["-X2.2", "-X2.1", "-X2.3"]);
    expect(movedBy(members, "-X2.14", 5)).toEqual(tags);
    expect(movedBy(members, "-X2.3", -9)[0]).toBe("-X2.3");
    expect(movedTo(["a", "b", "c", "d"], new Set(["a", "c"]), 4)).toEqual(["b", "d", "a", "c"]);
    expect(movedTo(["a", "b", "c", "d"], new Set(["d", "b"]), 0)).toEqual(["b", "d", "a", "c"]);
    expect(movedTo(["a", "b", "c", "d"], new Set(["b"]), 2)).toEqual(["a", "b", "c", "d"]);
  });

  test("the next free tag, and where a strip would begin so that nothing moves", () => {
    expect([nextTag("-X2.3", LARK), nextTag("-X2.14", LARK), nextTag("-X1.PE", LARK)]).toEqual([
      "-X2.15",
      "-X2.15",
      "-X1.PE.2",
    ]);
    const x20 = strip("-X20");
    const first = LARK.devices.find((d) => d.tag === "-X20.1")!.on!.x!;
    expect(placeNow(x20, LARK)).toBeCloseTo(first - 8, 6);
    expect(bridgeAct(x2, [member("-X2.2"), member("-X2.5")]).asks[0]!.choices![0]).toBe("2");
  });
});
