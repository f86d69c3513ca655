import { readFileSync } from "node:fs";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import type { EventReply } from "@gray-bench/contract/events";
import type { PickReply } from "@gray-bench/contract/kits";
import type { BatchReply } from "@gray-bench/contract/wireprep";
import { sheetsOf, type SheetEvent } from "@gray-bench/core/metalwork/events";
import { ticksOf, type TickEvent, type Ticked } from "@gray-bench/core/frame/ticks";
import { start } from "./helper";

/** Data files as programs before this one wrote them, and what their addresses said then. */
const KEPT = join(__dirname, "kept");

interface Said {
  strip: { ticks: ({ item: string } & Ticked)[] };
  picks: PickReply;
  batch: Pick<BatchReply, "summary" | "events"> & { runs: object[] };
}

const byItem = (a: { item: string }, b: { item: string }): number => (a.item < b.item ? -1 : 1);

test.each(["floor", "machines"])("%s: what happened is read as it was said, and goes on", async (name) => {
  const said = JSON.parse(readFileSync(join(KEPT, `${name}.said.json`), "utf8")) as Said;
  const bench = await start({}, { data: gunzipSync(readFileSync(join(KEPT, `${name}.db.gz`))) });
  const call = async <T>(url: string, body?: object): Promise<T> =>
    (
      await bench.app.inject({
        method: body ? "POST" : "GET",
        url: `/api/jobs/HILL-2604${url}`,
        ...(body ? { headers: { "content-type": "application/json" }, payload: JSON.stringify(body) } : {}),
      })
    ).json<T>();
  try {
    const { events: ticks } = await call<EventReply<TickEvent>>("/events?kind=tick&thing=strip%20-X1");
    expect([...ticksOf("strip -X1", ticks)].map(([item, t]) => ({ item, ...t })).sort(byItem)).toEqual(
      [...said.strip.ticks].sort(byItem),
    );
    // Sheets were ticks then: two begun, one of them spoilt, a program sent, and what was said done was taken back.
    const sheets = await call<EventReply<SheetEvent>>("/events?kind=sheet");
    expect(sheetsOf("+A1/plate", sheets.events)).toEqual([
      { n: 1, state: "scrapped", reason: "drill broke", who: "I. Vane", sent: [], said: ["tick-0006"] },
      {
        ...{ n: 2, state: "begun", reason: null, who: "I. Vane", said: ["tick-0007"] },
        sent: [{ setUp: 1, machine: "Wickett", program: null }],
      },
    ]);
    expect((await call<EventReply>("/events?kind=tick&thing=sheets")).events).toEqual([]);
    // A device that was without a network since then sends what it kept as it was.
    const late = { list: "sheets", who: "B. Lund", ticks: [{ id: "tick-late", item: "+A1/plate#2 done", done: true }] };
    await call("/ticks", late);
    const off = { ...late, ticks: [{ id: "tick-off", item: "+A1/plate#2 begun", done: false }] };
    await call("/ticks", off);
    const then = sheetsOf("+A1/plate", (await call<EventReply<SheetEvent>>("/events?kind=sheet")).events);
    expect(then[1]).toMatchObject({ state: "done", who: "B. Lund", said: ["tick-late"] });
    const picks = await call<PickReply>("/picks");
    expect(picks.events).toEqual(said.picks.events);
    const { summary, events, runs } = await call<BatchReply>("/batches/B1");
    expect({ summary, events, runs: runs.map(({ leads: _, ...run }) => run) }).toEqual(said.batch);
    // A screen that was left open knows the last number of then: what is said from now on comes behind it.
    expect(picks.last).toBeGreaterThan(said.picks.last);
    const [first] = picks.events;
    const next = { ...first!, id: "pick-next", quantity: 1 };
    const told = await call<PickReply>("/picks", { since: said.picks.last, events: [next, first!] });
    expect(told.events.filter((e) => e.id === "pick-next")).toEqual([next]);
    expect((await call<PickReply>(`/picks?since=${picks.last}`)).events).toEqual([next]);
  } finally {
    await bench.close();
  }
});
