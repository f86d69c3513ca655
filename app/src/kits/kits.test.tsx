import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Beside, EventRequest } from "@gray-bench/contract/events";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { JobNeedsReply, StockNow } from "@gray-bench/contract/kits";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { EDITS } from "@gray-bench/core/edits";
import type { PickEvent } from "@gray-bench/core/kits/events";
import { lineKey, type KitsResult } from "@gray-bench/core/kits/result";
import { needTogether } from "@gray-bench/core/kits/together";
import { storeOf } from "@gray-bench/core/kits/walk";
import { runStages } from "@gray-bench/core/run";
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { page, serve } from "../test/page";
import { forgetWaiting, waitingHere } from "../test/waiting";
import type { KitsChoice } from "./choice";
import { KitsView } from "./KitsView";
import { swapAct } from "./Missing";
import { ageText } from "./StockLine";
import { fitsCode, toPick, walkFor } from "./toPick";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
const rules = SHOP_RULES.kits;
const result = runStages(LARK).stages.kits as KitsResult;
const JOB = {
  code: "LARK-2601",
  key: "k",
  revision: "B",
  revisions: [{ revision: "B", designHash: "h", importedAt: "2026-11-01T00:00:00Z" }],
} as unknown as JobDetail;
const PICKS = "POST /api/jobs/LARK-2601/events";
const strips = result.kits.find((k) => k.code === "LARK-2601 +A1 strips")!;
const first = strips.lines[0]!;

beforeEach(async () => {
  localStorage.clear();
  await forgetWaiting();
});
beforeAll(() => {
  jest.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(844);
  jest.spyOn(Element.prototype, "clientWidth", "get").mockReturnValue(390);
  HTMLElement.prototype.scrollIntoView = () => undefined;
});
afterAll(() => jest.restoreAllMocks());

const view = (choice: KitsChoice) =>
  page(<KitsView job={JOB} result={result} design={LARK} rules={rules} choice={choice} />);
const plain = (text: string | null): string => text!.replace(/\u2060/g, "");

/** A server that keeps what it is sent, and may be cut off. */
function bench(events: PickEvent[] = []) {
  const log = [...events];
  const state = { away: false, log, here: [] as Beside[] };
  Object.assign(globalThis, {
    fetch: jest.fn((_path: string, init: { body: string }) => {
      if (state.away) return Promise.reject(new Error("no network"));
      const { since, events: sent } = JSON.parse(init.body) as EventRequest<PickEvent>;
      for (const e of sent) if (!log.some((x) => x.id === e.id)) log.push(e);
      const body = JSON.stringify({ events: log.slice(since), last: log.length, here: state.here });
      return Promise.resolve({ status: 200, ok: true, headers: new Headers(), text: () => Promise.resolve(body) });
    }),
  });
  return state;
}

describe("what is picked in a walk", () => {
  test("every line of every kit once, in the order of one walk; equal parts side by side", () => {
    const store = storeOf(rules);
    const { walk } = walkFor(result.kits, result, store, String);
    const list = toPick(result.kits, walk);
    expect(list).toHaveLength(result.kits.reduce((n, k) => n + k.lines.length, 0));
    expect(new Set(list.map((p) => p.id)).size).toBe(list.length);
    const places = list.map((p) => p.line.place).filter((p, i, all) => p !== all[i - 1]);
    expect(new Set(places).size).toBe(places.length);
    const parts = list.map((p) => p.key).filter((k, i, all) => k !== all[i - 1]);
    expect(new Set(parts).size).toBe(parts.length);
  });

  test("a code is the part or its place, whatever the case", () => {
    expect(fitsCode(" fw-t2 ", { line: { ...first, part: "FW-T2", place: "C-01-02" } })).toBe(true);
    expect(fitsCode("c-01-02", { line: { ...first, part: "FW-T2", place: "C-01-02" } })).toBe(true);
    expect(fitsCode("FW-T16", { line: { ...first, part: "FW-T2", place: "C-01-02" } })).toBe(false);
    expect(fitsCode("", { line: { ...first, part: null, place: null } })).toBe(false);
    expect(fitsCode("enclosure 1", { line: { ...first, part: null, text: "enclosure 1" } })).toBe(true);
  });
});

describe("picking", () => {
  const picking = { show: "pick", take: strips.code };

  test("one line at a time: place, part, how many, for which; picked it goes on, undone it comes back", async () => {
    const server = bench();
    view(picking);
    expect(screen.getByTestId("pick-place").textContent).toBe(first.place);
    expect(screen.getByTestId("pick-part").textContent).toBe(first.part);
    expect(screen.getByTestId("pick-count").textContent).toBe(`${first.quantity} ×`);
    expect(plain(screen.getByTestId("pick-tags").textContent)).toContain(first.tags[0]);
    fireEvent.click(screen.getByTestId("pick-done"));
    await waitFor(() => expect(server.log).toHaveLength(1));
    expect(server.log[0]).toMatchObject({
      kit: strips.code,
      line: lineKey(first),
      what: "picked",
      quantity: first.quantity,
    });
    expect(screen.getByTestId("pick-part").textContent).toBe(strips.lines[1]!.part);
    expect(screen.getByTestId("pick-sum").textContent).toBe(`1 of ${strips.lines.length} lines`);
    fireEvent.click(screen.getByTestId("pick-undo"));
    await waitFor(() => expect(server.log).toHaveLength(2));
    expect(server.log[1]).toMatchObject({ what: "undone", of: server.log[0]!.id });
    expect(screen.getByTestId("pick-sum").textContent).toBe(`0 of ${strips.lines.length} lines`);
  });

  test("a line that somebody else is at is left to them; who came to mine later takes it from nobody's hand", async () => {
    const server = bench();
    const beside = (before: boolean): Beside => ({
      ...{ device: "phone-0002", who: "Ann", thing: strips.code, part: lineKey(first) },
      before,
    });
    server.here = [beside(false)];
    view(picking);
    await waitFor(() => expect(screen.getByTestId("other-picker").textContent).toContain("Ann"));
    expect(screen.getByTestId("pick-part").textContent).toBe(first.part);
    cleanup();
    server.here = [beside(true)];
    view(picking);
    await waitFor(() => expect(screen.getByTestId("pick-part").textContent).toBe(strips.lines[1]!.part));
  });

  test("without a network picks wait on the device, and are sent once when it is back", async () => {
    const server = bench();
    server.away = true;
    const { unmount } = view(picking);
    fireEvent.click(screen.getByTestId("pick-done"));
    fireEvent.click(screen.getByTestId("pick-done"));
    await waitFor(() => expect(screen.getByTestId("picks-waiting").textContent).toContain("2 picks wait to be sent"));
    await waitFor(async () => expect(await waitingHere()).toHaveLength(2));
    unmount();
    // The page is opened again; the network is back.
    server.away = false;
    view(picking);
    await waitFor(() => expect(server.log).toHaveLength(2));
    await waitFor(() => expect(screen.queryByTestId("picks-waiting")).toBeNull());
    expect(screen.getByTestId("pick-sum").textContent).toBe(`2 of ${strips.lines.length} lines`);
    await waitFor(async () => expect(await waitingHere()).toEqual([]));
  });

  test("fewer are there: what there is is picked, and the rest is short with its reason", async () => {
    const server = bench();
    const many = strips.lines.find((l) => l.unit === "pcs" && l.quantity > 5 && !l.pack)!;
    view({ ...picking, line: `${strips.code} ${lineKey(many)}` });
    fireEvent.click(screen.getByTestId("pick-less"));
    fireEvent.change(screen.getByTestId("fewer-count"), { target: { value: "2" } });
    fireEvent.click(screen.getByTestId("why-damaged"));
    fireEvent.click(screen.getByTestId("fewer-done"));
    await waitFor(() => expect(server.log).toHaveLength(2));
    expect(server.log.map((e) => [e.what, e.quantity, e.reason])).toEqual([
      ["picked", 2, undefined],
      ["short", many.quantity - 2, "damaged"],
    ]);
  });

  test("the code of another line shows that line, and picks nothing by mistake", async () => {
    const server = bench();
    view(picking);
    const other = strips.lines.at(-1)!;
    fireEvent.change(screen.getByTestId("pick-code"), { target: { value: other.part } });
    fireEvent.click(screen.getByTestId("pick-code-take"));
    expect(screen.getByTestId("pick-wrong").textContent).toContain("another line of this walk");
    // What is picked next is sent behind whatever the code had picked.
    fireEvent.click(screen.getByTestId("pick-done"));
    await waitFor(() => expect(server.log.map((e) => e.line)).toContain(lineKey(first)));
    expect(server.log.map((e) => e.line)).not.toContain(lineKey(other));
    await waitFor(() => expect(screen.queryByTestId("picks-waiting")).toBeNull());
  });

  test("a count that cannot be is refused with what can; without a reason nothing is said", () => {
    bench();
    view(picking);
    fireEvent.click(screen.getByTestId("pick-less"));
    const done = screen.getByTestId("fewer-done");
    expect(done.getAttribute("aria-disabled")).toBe("true");
    fireEvent.click(screen.getByTestId("why-bin empty"));
    expect(done.getAttribute("aria-disabled")).not.toBe("true");
    for (const bad of ["-1", "many", String(first.quantity), "0.5", ""]) {
      fireEvent.change(screen.getByTestId("fewer-count"), { target: { value: bad } });
      expect([bad, done.getAttribute("aria-disabled")]).toEqual([bad, "true"]);
      within(screen.getByTestId("pick-fewer")).getByText(/Write a whole number from 0 to less than/);
    }
  });

  test("a code that is not wanted is refused, and says what is", () => {
    bench();
    view(picking);
    fireEvent.change(screen.getByTestId("pick-code"), { target: { value: "NIX" } });
    fireEvent.click(screen.getByTestId("pick-code-take"));
    expect(plain(screen.getByTestId("pick-wrong").textContent)).toContain(`Wanted: ${first.part}, in ${first.place}`);
  });

  test("kits that are not there any more say so", () => {
    bench();
    view({ show: "pick", take: "LARK-2601 +Z9 plate" });
    expect(screen.getByTestId("empty").textContent).toContain("none of these kits any more");
  });
});

describe("the other views", () => {
  const picked = (line: string, quantity: number): PickEvent => ({
    id: `id-${line}`,
    kit: strips.code,
    line,
    what: "picked",
    quantity,
    who: "Ida",
    at: "2026-11-26T10:00:00Z",
  });

  test("the board has every kit in the column it has come to", async () => {
    bench([picked(lineKey(first), first.quantity)]);
    view({});
    await waitFor(() => within(screen.getByTestId("column-picking")).getByTestId(`kit-${strips.code}`));
    expect(screen.getByTestId("column-planned").textContent).toContain(`planned · ${result.kits.length - 1}`);
  });

  test("a ticket has its lines in the order of the walk, and its working", async () => {
    bench([picked(lineKey(first), first.quantity + 3)]);
    view({ kit: strips.code, working: "walk" });
    await waitFor(() => expect(screen.getByTestId("line-1").textContent).toContain("too many"));
    expect(screen.getByTestId("working-total").textContent).toBe(`${strips.walk.metres} m`);
    expect(screen.getAllByTestId(/^line-/)).toHaveLength(strips.lines.length);
  });

  test("what was picked and is wanted no more goes back", async () => {
    const server = bench([picked(lineKey(first), first.quantity + 3)]);
    view({ show: "back" });
    const card = await screen.findByTestId(`back-${strips.code} ${lineKey(first)}`);
    expect(card.textContent).toContain("3");
    const button = within(card).getAllByRole("button")[0]!;
    fireEvent.click(button);
    await waitFor(() => expect(server.log.some((e) => e.what === "put back")).toBe(true));
  });

  test("a bill line says what made it", () => {
    bench();
    const line = result.bill.find((l) => l.text === "marker" && l.enclosure === "+A1")!;
    view({ show: "bill", line: `+A1 strips ${lineKey(line)}` });
    expect(screen.getByTestId("working").textContent).toContain("1 for each strip member");
    expect(screen.getByTestId("working-total").textContent).toBe(String(line.quantity));
  });

  test("one revision alone has nothing beside it", () => {
    bench();
    view({ show: "revisions" });
    expect(screen.getByTestId("empty").textContent).toContain("Only one revision");
  });
});

describe("what is missing", () => {
  const stock: StockNow = {
    state: "away",
    at: "2026-11-26T08:00:00.000Z",
    why: "it does not answer",
    waiting: 2,
    waitingWhy: "too many requests",
    refused: [],
  };
  const together = needTogether([{ job: "LARK-2601", wanted: "2027-02-09", bill: result.bill, picks: [] }], {
    format: "gray-bench-stock",
    version: 1,
    at: "2026-11-26T08:00:00.000Z",
    items: [...new Set(result.bill.flatMap((l) => l.part ?? []))].map((part) => ({
      part,
      free: part === "OH-K9" ? 2 : 1e6,
    })),
    deliveries: [],
    reserved: [],
  });
  const reply: JobNeedsReply = {
    stock,
    job: { job: "LARK-2601", title: "t", due: "2027-02-19", wanted: "2027-02-09" },
    needs: together.needs,
    starts: together.starts["LARK-2601"]!,
    reservation: null,
  };

  test("says how old the levels are, which steps can start, and what else would do", async () => {
    const fetch = serve({
      "POST /api/stock/tell": [200, stock],
      "GET /api/jobs/LARK-2601/needs": [200, reply],
      [PICKS]: [200, { events: [], last: 0, here: [] }],
    });
    view({ show: "missing", part: "OH-K9" });
    const card = await screen.findByTestId("short-OH-K9");
    expect(screen.getByTestId("stock-state").textContent).toContain("away: it does not answer. Kits go on without it.");
    expect(screen.getByTestId("stock-waiting").textContent).toBe(
      "2 picks wait to be told to it; nothing is lost. It said: too many requests.",
    );
    fireEvent.click(screen.getByTestId("stock-tell"));
    await waitFor(() =>
      expect(fetch).toHaveBeenCalledWith("/api/stock/tell", expect.objectContaining({ method: "POST" })),
    );
    expect(card.textContent).toContain("2 missing");
    expect(plain(screen.getByTestId("steps").textContent)).toContain("lacks 2 OH-K9");
    const other = within(screen.getByTestId("alternate-OH-K25"));
    other.getByText("named by the library as an alternate");
    other.getByText(/height 88 mm instead of 78 mm/);
  });

  test("an alternate is taken as an edit that fits the design", () => {
    const { kind, payloads } = swapAct("OH-K9", "OH-K25", ["-K3", "-K4"], []);
    let design = LARK;
    for (const payload of payloads) {
      const applied = EDITS.apply(design, { kind, payload } as never);
      if (!applied.ok) throw new Error(applied.reason);
      design = applied.design;
    }
    expect(design.devices.filter((d) => d.part === "OH-K9").map((d) => d.tag)).not.toContain("-K4");
  });

  test("ages in words", () => {
    const now = Date.parse("2026-11-26T12:00:00Z");
    const ages = ["2026-11-26T11:59:40Z", "2026-11-26T11:57:00Z", "2026-11-26T07:00:00Z", "2026-11-20T12:00:00Z"];
    expect(ages.map((a) => ageText(a, now))).toEqual(["just now", "3 min old", "5 h old", "6 days old"]);
  });
});
