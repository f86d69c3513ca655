import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EventRequest } from "@gray-bench/contract/events";
import type { JobDetail } from "@gray-bench/contract/jobs";
import type { BatchReply, RunNow, WireMachineNow } from "@gray-bench/contract/wireprep";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { runStages } from "@gray-bench/core/run";
import { countStates, leadStates, type LeadEvent } from "@gray-bench/core/wireprep/events";
import { chainsIn, type MadeBatch } from "@gray-bench/core/wireprep/batch";
import { makeBatch } from "@gray-bench/core/wireprep/make";
import type { WireprepResult } from "@gray-bench/core/wireprep/result";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { page } from "../test/page";
import { forgetWaiting, waitingHere } from "../test/waiting";
import type { WireprepChoice } from "./choice";
import { leftText } from "./Batches";
import { LeadPicture } from "./LeadPicture";
import { MachineState } from "./MachineState";
import { leadsOfBatch } from "./order";
import { minutesText } from "./say";
import { WireprepView } from "./WireprepView";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const HILL = JSON.parse(readFileSync(join(__dirname, "../../../designs/whole/hillfold.bench.json"), "utf8")) as Design;
const rules = SHOP_RULES.wireprep;
const result = runStages(HILL).stages.wireprep as WireprepResult;
const JOB = { code: "HILL-2604", key: "k", revision: "A", revisions: [] } as unknown as JobDetail;
const made = makeBatch(
  result,
  { name: "HILL-2604 B1", faces: [], panels: 1, machine: "Brack 2", way: "least", fallbacks: null },
  new Set(),
  rules,
) as MadeBatch;
const leads = leadsOfBatch(made).map((l) => l.lead);

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

const IDLE: WireMachineNow = {
  name: "Brack 2",
  takes: "leads",
  state: "idle",
  heardAt: "2026-11-26T10:00:00Z",
  wait: null,
  reel: null,
  magazines: [],
  readyS: 0,
  file: null,
};

/** A server that keeps what it is told of leads, and may be cut off or refuse. */
function bench(runs: RunNow[] = [], machine: WireMachineNow = IDLE) {
  const state = { away: false, refuse: false, events: [] as LeadEvent[], asked: [] as string[] };
  const reply = (): BatchReply => {
    const count = countStates(leadStates(chainsIn(made), state.events).values());
    return {
      summary: {
        name: "B1",
        machine: "Brack 2",
        panels: 1,
        bench: made.plan.bench.length,
        who: "Ina",
        at: "2026-11-26T10:00:00Z",
        endedAt: null,
        ...count,
      },
      batch: made,
      events: state.events,
      runs,
      revision: "A",
      changed: [],
    };
  };
  Object.assign(globalThis, {
    fetch: jest.fn((path: string, init?: { method?: string; body?: string }) => {
      const at = `${init?.method ?? "GET"} ${path}`;
      state.asked.push(at);
      if (state.away) return Promise.reject(new Error("no network"));
      const answer = (status: number, body: unknown) =>
        Promise.resolve({
          status,
          ok: status < 400,
          headers: new Headers(),
          text: () => Promise.resolve(JSON.stringify(body)),
        });
      if (path.endsWith("/wire-machines")) return answer(200, { machines: [machine] });
      if (at.startsWith("POST") && path.endsWith("/events")) {
        const { events, since } = JSON.parse(init!.body!) as EventRequest<LeadEvent>;
        if (state.refuse && events.length > 0)
          return answer(409, {
            code: "lead.at-machine",
            message: "1 is at the machine. Nothing was written down.",
            where: "1",
            remedy: "Wait.",
          });
        for (const e of events) if (!state.events.some((x) => x.id === e.id)) state.events.push(e);
        return answer(200, { events: state.events.slice(since), last: state.events.length, here: [] });
      }
      return answer(200, reply());
    }),
  });
  return state;
}

const view = (choice: WireprepChoice) => page(<WireprepView job={JOB} result={result} rules={rules} choice={choice} />);
const card = { batch: "B1", show: "card" };
const text = (id: string): string => screen.getByTestId(id).textContent!.replace(/\u2060/g, "");

test("minutes in words, and why leads are left", () => {
  expect([0.42, 9.96, 59.4, 119.4, 200].map(minutesText)).toEqual([
    "0.4 min",
    "10 min",
    "59 min",
    "119 min",
    "3 h 20 min",
  ]);
  const left = [
    { wire: "1", why: "a" },
    { wire: "2", why: "b" },
    { wire: "3", why: "a" },
  ];
  expect(leftText({ left })).toBe("1 3: a; 2: b");
});

test("a lead is drawn with both ends, and read out with what is on them", () => {
  const lead = leads[0]!;
  page(<LeadPicture lead={lead} />);
  const said = screen.getByRole("img").getAttribute("aria-label")!;
  for (const e of [lead.from, lead.to])
    expect(said).toContain(`${e.treatment} ${e.part ?? ""} at ${e.device}:${e.pin}`);
});

describe("the card", () => {
  test("shows the lead at hand; done goes on, undone comes back", async () => {
    const server = bench();
    view(card);
    await screen.findByTestId("lead-card");
    expect(text("card-wire")).toBe(leads[0]!.wire);
    expect(text("card-size")).toContain(leads[0]!.colour!);
    fireEvent.click(screen.getByTestId("lead-done"));
    await waitFor(() =>
      expect(server.events.map((e) => [e.lead, e.attempt, e.what])).toEqual([[leads[0]!.wire, 1, "made"]]),
    );
    await waitFor(() => expect(text("card-wire")).toBe(leads[1]!.wire));
    fireEvent.click(screen.getByTestId("lead-undo"));
    await waitFor(() => expect(server.events.map((e) => e.what)).toEqual(["made", "undone"]));
    expect(server.events[1]!.of).toBe(server.events[0]!.id);
    await waitFor(async () => expect(await waitingHere()).toEqual([]));
  });

  test("without a network nothing is lost: it waits, and says so", async () => {
    const server = bench();
    view(card);
    await screen.findByTestId("lead-card");
    server.away = true;
    fireEvent.click(screen.getByTestId("lead-done"));
    expect(await screen.findByText("1 entry waits to be sent; nothing is lost")).toBeTruthy();
    await waitFor(async () => expect(await waitingHere()).toHaveLength(1));
    expect(server.events).toEqual([]);
  });

  test("what the server refuses is told, and does not stand in the way of what comes after", async () => {
    const server = bench();
    server.refuse = true;
    view(card);
    await screen.findByTestId("lead-card");
    fireEvent.click(screen.getByTestId("lead-done"));
    expect(await screen.findByText("1 is at the machine. Nothing was written down.")).toBeTruthy();
    await waitFor(async () => expect(await waitingHere()).toEqual([]));
  });

  test("a lead at the machine cannot be ticked; a scrapped one says why it is made again", async () => {
    const lead = leads[0]!.wire;
    bench([
      {
        name: "r",
        takes: "leads",
        machine: "Brack 2",
        state: "sent",
        why: null,
        who: "Ina",
        at: "2026-11-26T10:00:00Z",
        leads: [[lead, 1]],
      },
    ]);
    view({ ...card, of: "all", lead });
    await screen.findByTestId("lead-card");
    expect(text("card-state")).toBe("at the machine");
    expect(screen.queryByTestId("lead-done")).toBeNull();
  });

  test("scrapped, with a reason of the list or in words", async () => {
    const server = bench();
    view(card);
    await screen.findByTestId("lead-card");
    fireEvent.click(screen.getByTestId("lead-scrap"));
    fireEvent.change(screen.getByTestId("why-words"), { target: { value: "  cat ran off with it " } });
    fireEvent.click(screen.getByTestId("why-say"));
    await waitFor(() =>
      expect(server.events.map((e) => [e.what, e.why])).toEqual([["scrapped", "cat ran off with it"]]),
    );
    await waitFor(() => expect(text("card-why")).toBe("cat ran off with it"));
  });
});

describe("the machine", () => {
  test("says what it waits for, large, with one button; a reel wants its metres", () => {
    bench();
    page(
      <MachineState
        name="Brack 2"
        machine={{ ...IDLE, state: "waiting", wait: { kind: "reel", what: "BL-W1BU", out: true }, readyS: 600 }}
      />,
    );
    expect(text("wanted-reel")).toBe("BL-W1BU");
    expect(screen.getByText(/has run out/)).toBeTruthy();
    fireEvent.change(screen.getByTestId("reel-metres"), { target: { value: "none" } });
    expect(screen.getByTestId("reel-mounted").getAttribute("aria-disabled")).toBe("true");
  });

  test("away: why, and that nothing is lost; not known: what to do", () => {
    bench();
    page(
      <>
        <MachineState name="Brack 2" machine={{ ...IDLE, state: "away", why: "it cannot be reached" }} />
        <MachineState name="Sedgeley" machine={undefined} />
      </>,
    );
    expect(screen.getByText(/it cannot be reached; last heard of .* goes when it is back/)).toBeTruthy();
    expect(screen.getByText(/was not told where it is/)).toBeTruthy();
  });
});

test("a job without leads says why", () => {
  bench();
  page(
    <WireprepView
      job={JOB}
      result={{ ...result, leads: [], batches: [], notMade: [{ wire: "1", why: "no way" }] }}
      rules={rules}
      choice={{}}
    />,
  );
  expect(screen.getByTestId("empty").textContent).toContain("1 wire is not led yet");
});
