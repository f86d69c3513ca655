import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { EventReply } from "@gray-bench/contract/events";
import type { BatchList, BatchReply, WireMachineList } from "@gray-bench/contract/wireprep";
import { leadStates, type LeadEvent } from "@gray-bench/core/wireprep/events";
import { chainsIn } from "@gray-bench/core/wireprep/batch";
import { memoryJournal } from "../../standins/src/wire/journal";
import { WireMachine } from "../../standins/src/wire/machine";
import { serveWire, type Listening } from "../../standins/src/wire/serve";
import { readWireTable } from "../../standins/src/wire/table";
import { attendTo, DESIGNS, post, start, until, type Bench } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const table = readWireTable(readFileSync(join(DESIGNS, "../standins/machines/brack-2.json"), "utf8"));
const JOB = "/api/jobs/HILL-2604/batches";
const EVENTS = "/api/jobs/HILL-2604/events";
const OF_B1 = { kind: "lead", thing: "B1", since: 0 };

let bench: Bench;
let machine: WireMachine;
let line: Listening;

const open = async (trouble = { pull: 0, jam: 0, seed: 1 }): Promise<void> => {
  machine = new WireMachine(table, memoryJournal(), trouble);
  // Its time is given to it by hand.
  line = await serveWire(machine, { tcp: 0, http: 0, factor: 0 });
  bench = await start({
    now: (
      (n) => () =>
        new Date(Date.UTC(2026, 10, 26) + n++ * 1000)
    )(0),
    wireMachines: [{ name: "Brack 2", host: "127.0.0.1", port: line.tcp, tells: `http://127.0.0.1:${line.http}` }],
  });
  await post(bench.app, HILL);
};
const close = async (): Promise<void> => {
  await bench.close();
  await line.close();
};

const call = async <T>(method: "GET" | "POST" | "DELETE", url: string, body?: object): Promise<T> => {
  const reply = await bench.app.inject({
    method,
    url,
    ...(body ? { headers: { "content-type": "application/json" }, payload: JSON.stringify(body) } : {}),
  });
  return reply.json<T>();
};
const asked = (more: object = {}) => ({
  faces: [],
  panels: 1,
  machine: "Brack 2",
  way: "least",
  fallbacks: null,
  who: "Ina",
  ...more,
});
const attend = (): void => attendTo(machine);
const event = (lead: string, attempt: number, what: string, more: object = {}) => ({
  id: `${lead}-${attempt}-${what}-x`,
  batch: "B1",
  lead,
  attempt,
  what,
  who: "Ina",
  at: "2026-11-26T10:00:00Z",
  ...more,
});
const statesOf = ({ batch, events }: BatchReply) => leadStates(chainsIn(batch), events);

describe("a batch", () => {
  beforeAll(() => open());
  afterAll(close);

  test("is looked at before it is made, holds each lead once, and leaves nothing for another one", async () => {
    const { plan } = await call<{ plan: { chains: string[][] } }>("POST", `${JOB}/outlook`, {
      faces: [],
      panels: 1,
      machine: "Brack 2",
      way: "bundles",
      fallbacks: null,
    });
    const list = await call<BatchList>("GET", JOB);
    expect(list.batches).toEqual([]);
    expect(list.free).toBe(list.leads);
    const made = await call<BatchReply>("POST", JOB, asked());
    expect(made.batch.plan.chains.flat().sort()).toEqual(plan.chains.flat().sort());
    expect(made.changed).toEqual([]);
    const wires = made.batch.leads.map((l) => l.wire);
    expect(new Set(wires).size).toBe(wires.length);
    const after = await call<BatchList>("GET", JOB);
    expect(after.free).toBe(after.leads - wires.length);
    const second = await call<ErrorBody>("POST", JOB, asked());
    expect(second.code).toBe("batch.none");
    expect(second.message).toContain("nothing is left to make");
  });

  test("what cannot be is refused with its remedy, and nothing is written down", async () => {
    expect((await call<ErrorBody>("GET", `${JOB}/B7`)).code).toBe("batch.unknown");
    expect((await call<ErrorBody>("POST", JOB, asked({ panels: 0 }))).code).toBe("request.invalid");
    expect((await call<ErrorBody>("POST", JOB, asked({ machine: "none", panels: 2 }))).message).toContain(
      "the shop has no machine none",
    );
    const strange = { events: [event("no such", 1, "made")] };
    expect((await call<ErrorBody>("POST", `${JOB}/B1/leads`, strange)).code).toBe("lead.unknown");
    expect((await call<ErrorBody>("POST", EVENTS, { ...OF_B1, ...strange })).code).toBe("lead.unknown");
    const gone = { ...OF_B1, thing: "B7", events: [{ ...strange.events[0]!, batch: "B7" }] };
    expect((await call<ErrorBody>("POST", EVENTS, gone)).code).toBe("batch.unknown");
    expect((await call<ErrorBody>("POST", EVENTS, { ...OF_B1, events: gone.events })).where).toBe("events.0.batch");
    expect((await call<BatchReply>("GET", `${JOB}/B1`)).events).toEqual([]);
  });

  test("goes to the machine once, and what the machine made is known lead for lead", async () => {
    const before = await call<BatchReply>("GET", `${JOB}/B1`);
    const sent = await call<BatchReply>("POST", `${JOB}/B1/send`, { who: "Ina" });
    expect(sent.runs.map((r) => r.state)).toEqual(["sent"]);
    expect((await call<ErrorBody>("POST", `${JOB}/B1/send`, { who: "Ina" })).code).toBe("batch.nothing");
    const first = before.batch.plan.chains[0]![0]!;
    const early = await call<ErrorBody>("POST", EVENTS, { ...OF_B1, events: [event(first, 1, "made")] });
    expect(early.code).toBe("lead.at-machine");
    expect((await call<ErrorBody>("DELETE", `${JOB}/B1`)).code).toBe("batch.at-machine");
    // A machine without its reel says which one it wants.
    machine.advance(1);
    const { machines } = await call<WireMachineList>("GET", "/api/wire-machines");
    expect(machines[0]).toMatchObject({ state: "waiting", wait: { kind: "reel", out: false } });
    const wrong = await call<ErrorBody>("POST", "/api/wire-machines/Brack%202/reel", { reel: "other", metres: 5 });
    expect(wrong.message).toContain("other is the wrong reel");
    const right = { reel: machines[0]!.wait!.what, metres: 100 };
    expect(await call("POST", "/api/wire-machines/Brack%202/reel", right)).toEqual({ done: true });
    attend();
    const done = await until(
      () => call<BatchReply>("GET", `${JOB}/B1`),
      (r) => r.runs.every((run) => run.state === "ended"),
    );
    expect(done.events.map((e) => [e.lead, e.what])).toEqual(
      before.batch.plan.chains.flat().map((lead) => [lead, "made"]),
    );
    expect(machine.jobs().flatMap((j) => j.made.map((m) => m.wire))).toEqual(before.batch.plan.chains.flat());
  });

  test("a lead that is scrapped is made again with what it is crimped with, once, however often it is said", async () => {
    const reply = await call<BatchReply>("GET", `${JOB}/B1`);
    const chain = reply.batch.plan.chains.find((c) => c.length > 1) ?? reply.batch.plan.chains[0]!;
    const scrap = event(chain[0]!, 1, "scrapped", { why: "dropped" });
    const heard = await call<EventReply<LeadEvent>>("POST", EVENTS, { ...OF_B1, events: [scrap] });
    expect(heard.events.at(-1)).toMatchObject({ id: scrap.id, batch: "B1", what: "scrapped" });
    await call("POST", `${JOB}/B1/leads`, { events: [scrap, { ...scrap, id: "other-id-x" }] });
    const states = statesOf(await call<BatchReply>("GET", `${JOB}/B1`));
    for (const lead of chain) expect(states.get(lead)).toMatchObject({ attempt: 2, made: null });
    expect([...states.values()].filter((s) => s.attempt > 1)).toHaveLength(chain.length);
    const sent = await call<BatchReply>("POST", `${JOB}/B1/send`, { who: "Ina" });
    expect(sent.runs[1]!.leads.map(([lead]) => lead)).toEqual(chain);
    const late = await call<ErrorBody>("POST", `${JOB}/B1/leads`, {
      events: [event(chain[0]!, 1, "undone", { of: scrap.id })],
    });
    expect(late.code).toBe("lead.later");
    attend();
    const done = await until(
      () => call<BatchReply>("GET", `${JOB}/B1`),
      (r) => r.summary.made === r.batch.plan.chains.flat().length,
    );
    expect(done.runs.map((r) => r.state)).toEqual(["ended", "ended"]);
  });

  test("its documents: tables are read back, a file for the machine, tickets; unknown ones are refused", async () => {
    const { batch } = await call<BatchReply>("GET", `${JOB}/B1`);
    const get = (name: string) => bench.app.inject(`${JOB}/B1/files/${name}`);
    const rows = parse((await get("leads.csv")).body, { columns: true }) as Record<string, string>[];
    expect(rows.map((r) => r.wire).filter((w) => batch.leads.some((l) => l.wire === w))).toHaveLength(
      batch.leads.length,
    );
    expect((await get("machine")).body).toContain("<orders>");
    expect((await get("bundles.pdf")).rawPayload.subarray(0, 5).toString()).toBe("%PDF-");
    expect((await get("nothing.csv")).statusCode).toBe(404);
  });

  test("equal panels are leads of their own; a batch that is ended gives back what is not made", async () => {
    const more = await call<BatchReply>("POST", JOB, asked({ panels: 2, machine: null }));
    expect(more.summary).toMatchObject({ name: "B2", machine: null });
    expect(more.batch.leads.every((l) => l.wire.endsWith(" (2)"))).toBe(true);
    const [one, two] = more.batch.leads;
    const said = await call<BatchReply>("POST", `${JOB}/B2/leads`, {
      events: [{ ...event(one!.wire, 1, "made"), batch: "B2" }],
    });
    expect(said.summary.made).toBe(1);
    await call("DELETE", `${JOB}/B2`);
    const again = await call<BatchReply>("POST", JOB, asked({ panels: 2, machine: null }));
    const wires = again.batch.leads.map((l) => l.wire);
    expect(wires).toContain(two!.wire);
    const crimped = one!.from.shared !== null || one!.to.shared !== null;
    if (!crimped) expect(wires).not.toContain(one!.wire);
  });
});

describe("a machine that spoils some", () => {
  beforeAll(() => open({ pull: 120, jam: 40, seed: 9 }));
  afterAll(close);

  test("makes them again by itself until every lead is there once", async () => {
    const { batch } = await call<BatchReply>("POST", JOB, asked());
    await call("POST", `${JOB}/B1/send`, { who: "Ina" });
    const done = await until(
      () => {
        attend();
        return call<BatchReply>("GET", `${JOB}/B1`);
      },
      (r) => r.summary.made === batch.plan.chains.flat().length,
    );
    expect(done.runs.length).toBeGreaterThan(1);
    const failed = done.events.filter((e: LeadEvent) => e.what === "failed");
    expect(failed.length).toBeGreaterThan(0);
    for (const e of failed) expect(["pull force", "jammed"]).toContain(e.why);
    const states = statesOf(done);
    const good = machine.jobs().flatMap((j) => j.made.filter((m) => m.result === "good").map((m) => m.wire));
    // Whatever has no partner that failed was made well just once.
    for (const chain of batch.plan.chains)
      if (chain.length === 1) expect(good.filter((w) => w === chain[0])).toHaveLength(1);
    expect([...states.values()].every((s) => s.made !== null || s.attempt === 1)).toBe(true);
  });

  test("is away: the file waits, and goes when it is back, once", async () => {
    await call("DELETE", `${JOB}/B1`);
    const { batch } = await call<BatchReply>("POST", JOB, asked({ panels: 2 }));
    const { tcp, http } = line;
    await line.close();
    const sent = await call<BatchReply>("POST", `${JOB}/B2/send`, { who: "Ina" });
    expect(sent.runs.map((r) => r.state)).toEqual(["sending"]);
    expect((await call<WireMachineList>("GET", "/api/wire-machines")).machines[0]!.state).toBe("away");
    line = await serveWire(machine, { tcp, http, factor: 0 });
    const there = await until(
      () => call<BatchReply>("GET", `${JOB}/B2`),
      (r) => r.runs[0]!.state === "sent",
    );
    expect(there.runs[0]!.leads.map(([lead]) => lead)).toEqual(batch.plan.chains.flat());
    const stopped = await call<BatchReply>("POST", `${JOB}/B2/stop`);
    const ended = await until(
      () => call<BatchReply>("GET", `${JOB}/B2`),
      (r) => r.runs[0]!.state === "ended",
    );
    expect(stopped.summary.name).toBe("B2");
    expect(ended.runs[0]!.why).toBe("its file was stopped");
    expect(ended.summary.made).toBe(0);
    expect([...statesOf(ended).values()].every((s) => s.attempt === 2 || batch.plan.bench.length > 0)).toBe(true);
  });
});
