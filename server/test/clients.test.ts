import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EditLog, EditReply } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import { contentHash } from "@gray-bench/core/design/hash";
import type { Design } from "@gray-bench/core/design/model";
import { readDesign } from "@gray-bench/core/design/read";
import { EDITS } from "@gray-bench/core/edits";
import { DESIGNS, post, start } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const JOB = "/api/jobs/HILL-2604";

/** Seeded numbers (mulberry32). */
function random(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const COLOURS = ["BK", "BN", "RD", "BU", "PK", "VT"];

test("three clients at once with random timing: some order of what was acknowledged explains the log, nothing is lost", async () => {
  const bench = await start();
  try {
    await post(bench.app, HILL);
    const received = readDesign(HILL);
    if (!received.ok) throw new Error("refused");
    const numbers = received.design.wires.map((w) => w.number);
    const get = async <T>(path: string) => (await bench.app.inject({ method: "GET", url: JOB + path })).json<T>();
    const send = (path: string, body: object) =>
      bench.app.inject({
        method: "POST",
        url: JOB + path,
        headers: { "content-type": "application/json" },
        payload: JSON.stringify(body),
      });
    const laid: string[] = [];
    const back: string[] = [];
    let stale = 0;
    const pause = async (next: () => number): Promise<void> => {
      for (let n = Math.floor(next() * 4); n > 0; n--) await new Promise((go) => setImmediate(go));
    };
    const clients = ["A. Lund", "M. Orr", "T. Vane"].map((who, i) => ({ who, next: random(i + 1), left: 12 }));
    /** Sends an edit, or takes one back. @returns whether it was taken */
    const act = async ({ who, next }: (typeof clients)[number], on: string): Promise<boolean> => {
      await pause(next);
      const mine = laid.filter((id) => !back.includes(id));
      const turns = next() < 0.25 && mine.length > 0;
      const id = mine[Math.floor(next() * mine.length)];
      const payload = {
        wires: [numbers[Math.floor(next() * numbers.length)]],
        colour: COLOURS[Math.floor(next() * COLOURS.length)],
      };
      const reply = turns
        ? await send(`/edits/${id}/back`, { on, who })
        : await send("/edits", { on, who, edits: [{ kind: "set wires", payload }] });
      if (reply.statusCode === 409) {
        const { code } = reply.json<ErrorBody>();
        expect(["edit.stale", "edit.turned", "edit.stands"]).toContain(code);
        if (code === "edit.stale") stale++;
        return false;
      }
      expect([200, 201]).toContain(reply.statusCode);
      if (turns) back.push(id!);
      else laid.push(...reply.json<EditReply>().ids);
      return true;
    };
    // All look at one design before any of them sends: once one has changed it, the others are told that it is another one now.
    while (clients.some((c) => c.left > 0)) {
      const { designHash: on } = await get<EditLog>("/edits");
      const going = clients.filter((c) => c.left > 0);
      const taken = await Promise.all(going.map((c) => act(c, on)));
      taken.forEach((is, i) => (going[i]!.left -= Number(is)));
    }
    const log = await get<EditLog>("/edits");
    expect(log.edits.map((e) => e.id).sort()).toEqual([...laid].sort());
    expect(
      log.edits
        .filter((e) => e.back)
        .map((e) => e.id)
        .sort(),
    ).toEqual([...back].sort());
    const design: Design = EDITS.lay(
      received.design,
      log.edits.map(({ why, ...e }) => ({ ...e, ...(why === null ? {} : { why }) })),
    ).design;
    expect(contentHash(design)).toBe(log.designHash);
    // As long as all three go one of each round is taken, and two are in its way.
    expect([stale > 20, back.length > 2]).toEqual([true, true]);
  } finally {
    await bench.close();
  }
}, 60_000);
