import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { EditLog, EditReply } from "@gray-bench/contract/edits";
import type { ErrorBody } from "@gray-bench/contract/errors";
import type { JobDetail } from "@gray-bench/contract/jobs";
import { contentHash } from "@gray-bench/core/design/hash";
import type { Design } from "@gray-bench/core/design/model";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { EDITS } from "@gray-bench/core/edits";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { DESIGNS, post, start, type Bench } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const JOB = "/api/jobs/HILL-2604";

let bench: Bench;
beforeEach(async () => {
  bench = await start();
  await post(bench.app, HILL);
});
afterEach(() => bench.close());

const get = async <T>(path = "") => (await bench.app.inject({ method: "GET", url: JOB + path })).json<T>();
const hash = async () => (await get<JobDetail>()).designHash;
const send = (path: string, body: unknown) =>
  bench.app.inject({
    method: "POST",
    url: JOB + path,
    headers: { "content-type": "application/json" },
    payload: JSON.stringify(body),
  });

/** Lays edits on the design as it is now. */
const edit = async (...edits: { kind: string; payload: unknown; why?: string }[]) =>
  send("/edits", { on: await hash(), who: "M. Orr", edits });
const turn = async (id: string, what: "back" | "again") =>
  send(`/edits/${id}/${what}`, { on: await hash(), who: "T. Vane" });

const red = { kind: "set wires", payload: { wires: ["1"], colour: "RD" } };
const wider = { kind: "set wires", payload: { wires: ["1", "2"], sizeMm2: 2.5 } };

describe("edits of a job", () => {
  test("are laid on the design, computed, and taken back to the first hash", async () => {
    const first = await hash();
    const reply = await edit({ ...red, why: "the customer asked" }, wider);
    expect(reply.statusCode).toBe(201);
    const { designHash, ids, sentences } = reply.json<EditReply>();
    expect(sentences).toEqual(["wire 1: RD", "wires 1, 2: 2.5 mm²"]);
    expect([await hash(), designHash === first]).toEqual([designHash, false]);
    const design = await get<Design>("/design");
    expect(contentHash(design)).toBe(designHash);
    expect(design.wires.find((w) => w.number === "1")).toMatchObject({ colour: "RD", sizeMm2: 2.5 });
    const routes = await get<RoutesResult>("/stages/routes");
    expect(routes.wires.find((w) => w.id === "1")!.sizeMm2).toEqual({ value: 2.5, origin: "wire" });
    const log = await get<EditLog>("/edits");
    expect([log.designHash, log.receivedHash, log.edits.length]).toEqual([designHash, first, 2]);
    expect(log.edits[0]).toEqual({
      id: ids[0],
      kind: "set wires",
      payload: red.payload,
      sentence: "wire 1: RD",
      touches: [{ thing: "wire", of: "1" }],
      who: "M. Orr",
      when: "2026-11-23T00:00:00.000Z",
      why: "the customer asked",
      back: null,
      unfitting: null,
    });
    // The first is taken back though another came after it; then that one.
    expect((await turn(ids[0]!, "back")).statusCode).toBe(200);
    expect((await get<Design>("/design")).wires.find((w) => w.number === "1")!.colour).not.toBe("RD");
    expect((await turn(ids[1]!, "back")).json<EditReply>().designHash).toBe(first);
    const after = await get<EditLog>("/edits");
    expect(after.edits.map((e) => e.back?.who)).toEqual(["T. Vane", "T. Vane"]);
    // Laid again in the order they were made in.
    await turn(ids[1]!, "again");
    expect((await turn(ids[0]!, "again")).json<EditReply>().designHash).toBe(designHash);
  });

  test("all or nothing: one that does not fit leaves no trace", async () => {
    const first = await hash();
    const reply = await edit(red, { kind: "turn", payload: { device: "-NIX", turn: 90 } });
    expect([reply.statusCode, reply.json<ErrorBody>()]).toEqual([
      422,
      {
        code: "edit.refused",
        message: '"-NIX turned to 90°" does not fit: there is no device -NIX in the design. Nothing was changed.',
        where: "edits[1]",
        remedy: "It may have been renamed or deleted; look it up and try again.",
      },
    ]);
    expect([await hash(), (await get<EditLog>("/edits")).edits]).toEqual([first, []]);
  });

  test.each<[string, object, string]>([
    ["an unknown kind", { kind: "nix", payload: {} }, "edits[0].kind"],
    ["a payload of another form", { kind: "turn", payload: { device: "-K1", turn: 45 } }, "edits[0].payload.turn"],
    ["no payload", { kind: "turn" }, "edits.0.payload"],
  ])("%s is refused with its place", async (_name, doing, where) => {
    const reply = await send("/edits", { on: await hash(), who: "M", edits: [doing] });
    expect([reply.statusCode, reply.json<ErrorBody>().where]).toEqual([400, where]);
  });

  test("a body that is no request; an edit that is not there or is as asked already", async () => {
    const raw = await bench.app.inject({
      method: "POST",
      url: `${JOB}/edits`,
      headers: { "content-type": "application/json" },
      payload: "{",
    });
    expect(raw.json<ErrorBody>().code).toBe("request.invalid");
    expect((await send("/edits", { on: await hash(), who: " ", edits: [red] })).statusCode).toBe(400);
    expect((await turn("nix", "back")).json<ErrorBody>().code).toBe("edit.unknown");
    const { ids } = (await edit(red)).json<EditReply>();
    expect((await turn(ids[0]!, "again")).json<ErrorBody>()).toMatchObject({
      code: "edit.turned",
      message: '"wire 1: RD" stands already.',
    });
    await turn(ids[0]!, "back");
    expect((await turn(ids[0]!, "back")).json<ErrorBody>().message).toBe('"wire 1: RD" was undone already.');
  });

  test("made on a design that is no longer the one: told what was done since", async () => {
    const first = await hash();
    const { ids } = (await edit(red)).json<EditReply>();
    await turn(ids[0]!, "back");
    await edit(wider);
    const late = await send("/edits", { on: "0".repeat(64), who: "L", edits: [red] });
    expect(late.json<ErrorBody>()).toMatchObject({ code: "edit.stale", changed: ["another revision is here: A"] });
    // The first hash was there twice: what counts is what came after the last time.
    const reply = await send("/edits", { on: first, who: "L", edits: [red] });
    expect([reply.statusCode, reply.json<ErrorBody>().changed]).toEqual([409, ["M. Orr: wires 1, 2: 2.5 mm²"]]);
    expect((await get<EditLog>("/edits")).edits).toHaveLength(2);
  });

  test("an edit that others stand on says which", async () => {
    const device = (await get<Design>("/design")).devices[0]!.tag;
    const { ids } = (
      await edit(
        { kind: "rename", payload: { thing: "device", from: device, to: "-NEW" } },
        { kind: "set texts", payload: { device: "-NEW", sheet: "9" } },
      )
    ).json<EditReply>();
    const reply = await turn(ids[0]!, "back");
    expect([reply.statusCode, reply.json<ErrorBody>().standing]).toEqual([
      409,
      ["-NEW on sheet 9 (there is no device -NEW in the design)"],
    ]);
  });

  test("an accepted open point stays listed, is not counted, and comes back when its cause changes", async () => {
    const { open } = await get<{ open: OpenPoint[] }>("/open-points");
    const lark = readFileSync(join(DESIGNS, "whole/larkmoor.bench.json"), "utf8");
    expect(open).toEqual([]);
    await post(bench.app, lark);
    const of = "/api/jobs/LARK-2601";
    const inject = async <T>(path: string) => (await bench.app.inject({ method: "GET", url: of + path })).json<T>();
    const before = (await inject<{ open: OpenPoint[] }>("/open-points")).open;
    const point = before.find((p) => p.severity === "check")!;
    const job = await inject<JobDetail>("");
    const accepted = { point: point.id, text: point.text, why: "it is meant to be", who: "M. Orr" };
    await bench.app.inject({
      method: "POST",
      url: `${of}/edits`,
      headers: { "content-type": "application/json" },
      payload: JSON.stringify({ on: job.designHash, who: "M. Orr", edits: [{ kind: "accept", payload: accepted }] }),
    });
    const after = (await inject<{ open: OpenPoint[] }>("/open-points")).open;
    expect(after).toHaveLength(before.length);
    expect(after[after.length - 1]).toEqual({ ...point, accepted: { who: "M. Orr", why: "it is meant to be" } });
    const now = await inject<JobDetail>("");
    expect(now.open.check).toBe(job.open.check - 1);
    const ofStage = (j: JobDetail) => j.stages.find((s) => s.stage === point.stage)!.open.check;
    expect(ofStage(now)).toBe(ofStage(job) - 1);
  });

  test("what is no open point cannot be accepted, and who accepts is who lays it", async () => {
    await edit({ kind: "set wires", payload: { wires: ["1"], colour: "RD" } });
    const { open } = await get<{ open: OpenPoint[] }>("/open-points");
    const [point] = open;
    const accept = (text: string) => ({
      kind: "accept",
      payload: { point: point!.id, text, why: "agreed", who: "somebody else" },
    });
    const never = await edit(accept(`${point!.text} and more`));
    expect([never.statusCode, never.json<ErrorBody>().message]).toEqual([
      422,
      expect.stringContaining("there is no such open point in this job as it is now"),
    ]);
    expect((await edit(accept(point!.text))).statusCode).toBe(201);
    const after = (await get<{ open: OpenPoint[] }>("/open-points")).open;
    expect(after.filter((p) => p.accepted).map((p) => p.accepted)).toEqual([{ who: "M. Orr", why: "agreed" }]);
  });

  test("a hole named by its number is kept by what it is", async () => {
    const round = (x: number) => ({ kind: "round", x, y: 60, d: 8 });
    const face = "+A1/door";
    const { ids } = (
      await edit(
        { kind: "add hole", payload: { face, hole: round(60) } },
        { kind: "add hole", payload: { face, hole: round(90) } },
        { kind: "change hole", payload: { face, nth: 2, hole: round(95) } },
      )
    ).json<EditReply>();
    expect((await get<EditLog>("/edits")).edits[2]!.payload).toEqual({ face, was: round(90), hole: round(95) });
    expect((await turn(ids[0]!, "back")).statusCode).toBe(200);
    const { faces } = await get<Design>("/design");
    expect(faces.find((f) => f.kind === "door")!.holes).toEqual([round(95)]);
  });

  test("an earlier revision is put back with the edits on top, and the later one again; each keeps its own bill", async () => {
    const first = await hash();
    await edit(red);
    const next = JSON.parse(HILL) as Design;
    next.job.revision = "B";
    next.wires = next.wires.slice(0, -1);
    await post(bench.app, JSON.stringify(next));
    await edit(wider);
    const later = await hash();
    const put = (revision: string, on: string) => send(`/revisions/${revision}/back`, { on, who: "T. Vane" });
    expect((await put("C", later)).json<ErrorBody>().code).toBe("revision.unknown");
    expect((await put("B", later)).json<ErrorBody>().code).toBe("revision.counts");
    expect((await put("A", first)).json<ErrorBody>().code).toBe("edit.stale");
    const reply = await put("A", later);
    expect([reply.statusCode, reply.json<EditReply>().sentences]).toEqual([200, ["revision A put back"]]);
    const design = await get<Design>("/design");
    expect([design.job.revision, design.wires.length, design.wires.find((w) => w.number === "1")!.sizeMm2]).toEqual([
      "A",
      next.wires.length + 1,
      2.5,
    ]);
    expect(contentHash(design)).toBe(await hash());
    // An edit made now belongs to A; B is as it was left.
    await edit({ kind: "set wires", payload: { wires: ["3"], colour: "WH" } });
    const bill = await get<{ edits: string }>("/bill?revision=B");
    expect(bill.edits).toBe("in");
    expect((await put("B", await hash())).statusCode).toBe(200);
    const again = await get<Design>("/design");
    expect([again.wires.length, again.wires.find((w) => w.number === "3")!.colour]).toEqual([next.wires.length, "WH"]);
    const stale = await send("/edits", { on: later, who: "L", edits: [red] });
    expect(stale.json<ErrorBody>().changed).toEqual([
      "T. Vane: revision A put back",
      "M. Orr: wire 3: WH",
      "T. Vane: revision B put back",
    ]);
  });

  test("a new revision keeps the edits; what does not fit it is an open point with its sentence", async () => {
    await edit(red, { kind: "set texts", payload: { device: "-NEW", sheet: "9" } }).then((r) =>
      expect(r.statusCode).toBe(422),
    );
    const wires = (JSON.parse(HILL) as Design).wires;
    const gone = wires[wires.length - 1]!.number;
    await edit(red, { kind: "set wires", payload: { wires: [gone], colour: "BK" } });
    const next = JSON.parse(HILL) as Design;
    next.job.revision = "B";
    next.wires = next.wires.slice(0, -1);
    const reply = await post(bench.app, JSON.stringify(next));
    expect(reply.statusCode).toBe(201);
    const design = await get<Design>("/design");
    expect([design.job.revision, design.wires.find((w) => w.number === "1")!.colour]).toEqual(["B", "RD"]);
    const { open } = await get<{ open: OpenPoint[] }>("/open-points");
    expect(open[0]).toMatchObject({
      severity: "stop",
      kind: "edit does not fit",
      text: `"wire ${gone}: BK" does not fit this revision: there is no wire ${gone} in the design`,
    });
    expect((await get<JobDetail>()).open.stop).toBe(1);
    const log = await get<EditLog>("/edits");
    expect(log.edits.map((e) => e.unfitting?.reason ?? null)).toEqual([null, `there is no wire ${gone} in the design`]);
    // Taken back, it is no longer open.
    expect((await turn(log.edits[1]!.id, "back")).statusCode).toBe(200);
    // Its red wire is of no type the library has: of that kits and wire prep tell.
    const { open: left } = await get<{ open: OpenPoint[] }>("/open-points");
    expect(left.map((p) => p.kind)).toEqual(["no wire type", "lead without a wire type"]);
  });

  test("many clients at once: nothing acknowledged is lost, and the log laid in its order is the design", async () => {
    const colours = ["BK", "BN", "RD", "OG", "YE", "GN", "BU", "VT"];
    let stale = 0;
    const client = async (name: string, seed: number): Promise<string[]> => {
      const acked: string[] = [];
      for (let i = 0; i < 6; i++) {
        seed = (seed * 1103515245 + 12345) % 2147483648;
        const doing = { kind: "set wires", payload: { wires: [String(1 + (seed % 4))], colour: colours[seed % 8] } };
        for (;;) {
          const reply = await send("/edits", { on: await hash(), who: name, edits: [doing] });
          if (reply.statusCode === 201) {
            acked.push(...reply.json<EditReply>().ids);
            break;
          }
          expect(reply.json<ErrorBody>().code).toBe("edit.stale");
          stale++;
        }
      }
      return acked;
    };
    const acked = (await Promise.all(["A", "B", "C"].map((name, i) => client(name, 77 + i)))).flat();
    const log = await get<EditLog>("/edits");
    expect(log.edits.map((e) => e.id).sort()).toEqual([...acked].sort());
    const received = JSON.parse(HILL) as Design;
    const laid = EDITS.lay(
      received,
      log.edits.map((e) => ({ ...e, why: e.why ?? "" })),
    );
    expect(contentHash(laid.design)).toBe(log.designHash);
    expect(stale).toBeGreaterThan(0);
  });
});
