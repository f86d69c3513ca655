import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LARGE, large } from "@gray-bench/designs/large";
import { Key } from "selenium-webdriver";
import { byId, click, find, says, startBrowser, WIDE } from "../../e2e/src/browser";
import { startBench } from "../../e2e/src/bench-server";
import { held, sized } from "./short";

/**
 * One colour changed on 10,000 wires against computing all: on the server, until the new numbers are told, and on the screen, until they
 * stand there; first load.
 */

const ROUNDS = sized(5, 2);
const SIZE = sized(LARGE, { ...LARGE, enclosures: 2, wires: 200 });
/** Of a colour laid, kept and computed on the server to all that is computed once a design is kept. */
const LEAST_RATIO = 10;
/** The same on the screen, where the browser draws on the same two cores. */
const LEAST_ON_SCREEN = 5;
const MOST_KB = 450;

async function openWire(job: string): Promise<void> {
  await driver.get(`${bench.address}/jobs/${job}/routes?wire=17`);
  await says(driver, "wire-details", "Ends and net");
}

/** One colour: from the press on the button until colour, figures and what it came to are there. ms */
async function recolour(colour: string): Promise<number> {
  await click(driver, "edit-colour");
  await (await find(driver, "ask-colour")).sendKeys(colour);
  const name = await driver.findElements(byId("edit-who"));
  if (name[0]) await name[0].sendKeys(Key.chord(Key.CONTROL, "a"), "M. Orr");
  await find(driver, "edit-save");
  await driver.executeScript(
    "window.__pressed = performance.now(); document.querySelector('[data-testid=\"edit-save\"]').click();",
  );
  // The line of edits is no longer busy, names this edit, and says behind it what it came to, whatever that is.
  const stands = `said()?.getAttribute("aria-busy") === "false" && /17: ${colour}\\. +\\S/.test(text("edit-said")) && text("wire-details").includes("${colour} ·")`;
  return driver.executeAsyncScript<number>(until("window.__pressed", stands));
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** Resolves with the milliseconds from `from` until a condition holds, looked at every 5 ms. */
const until = (from: string, condition: string): string => `
  const done = arguments[arguments.length - 1];
  const look = () => {
    const said = () => document.querySelector('[data-testid="edit-said"]');
    const text = (id) => document.querySelector('[data-testid="' + id + '"]')?.textContent ?? "";
    if (${condition}) done(performance.now() - ${from}); else setTimeout(look, 5);
  };
  look();
`;

const sent = (path: string, body: string): Promise<Response> =>
  fetch(`${bench.address}/api/jobs${path}`, { method: "POST", headers: { "content-type": "application/json" }, body });

/** Resolves when the numbers of a job are told to be there. */
const told = async (job: string): Promise<void> => {
  const events = await (await fetch(`${bench.address}/api/jobs/${job}/run`)).text();
  if (!events.includes('"run":"done"')) throw new Error(events);
};

/** What is still written out is not counted with what comes next. */
const writtenOut = async (job: string): Promise<unknown> =>
  (await fetch(`${bench.address}/api/jobs/${job}/stages/wireprep`)).arrayBuffer();

/** A job of its own, and in how many milliseconds all of it is computed once it is kept. */
async function allOf(job: string, seed: number): Promise<number> {
  const design = large(seed, SIZE);
  const reply = await sent("", JSON.stringify({ ...design, job: { ...design.job, code: job } }));
  if (reply.status !== 201) throw new Error(await reply.text());
  const began = performance.now();
  await told(job);
  const ms = performance.now() - began;
  await writtenOut(job);
  return ms;
}

/** One colour of a job: from the request until the new numbers are told. ms */
async function oneOf(job: string, colour: string): Promise<number> {
  const { designHash } = (await (await fetch(`${bench.address}/api/jobs/${job}`)).json()) as { designHash: string };
  const edits = [{ kind: "set wires", payload: { wires: ["17"], colour } }];
  const began = performance.now();
  const reply = await sent(`/${job}/edits`, JSON.stringify({ on: designHash, who: "M. Orr", edits }));
  if (reply.status !== 201) throw new Error(await reply.text());
  await told(job);
  const ms = performance.now() - began;
  await writtenOut(job);
  return ms;
}

const folder = mkdtempSync(join(tmpdir(), "gray-bench-bench-"));
const bench = await startBench();
const driver = await startBrowser(WIDE);
await driver.manage().setTimeouts({ script: 120_000 });
try {
  // What is fetched until the first view stands: on the wire, compressed.
  await driver.get(bench.address);
  await find(driver, "open-file");
  const loaded = await driver.executeScript<[name: string, bytes: number][]>(
    "return [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')].map((e) => [e.name, e.encodedBodySize]);",
  );
  const isFont = ([name]: [string, number]): boolean => /\.woff2/.test(name);
  const kb = (list: [string, number][]): number => list.reduce((sum, [, bytes]) => sum + bytes, 0) / 1000;
  const code = kb(loaded.filter((l) => !isFont(l)));
  console.log(
    `first load: ${code.toFixed(0)} kB compressed in ${loaded.length} files, and ${kb(loaded.filter(isFont)).toFixed(0)} kB of fonts   bound: ${MOST_KB} kB`,
  );

  await driver.get("about:blank");
  // What the machine can do changes by the minute, and so both are measured in turn.
  const everything: number[] = [];
  const colours: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    everything.push(await allOf(`HALL-${round}`, 100 + round));
    for (const colour of ["PK", "VT", "OG"]) colours.push(await oneOf(`HALL-${round}`, colour));
  }

  // A job that is imported, then two colours of it.
  const all: number[] = [];
  const one: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    // Another seed each time: of equal designs the results would be shared.
    const design = large(1 + round, SIZE);
    const job = `BIG-${round}`;
    const file = join(folder, `${job}.bench.json`);
    writeFileSync(file, JSON.stringify({ ...design, job: { ...design.job, code: job, revision: `${round}` } }));
    await driver.get(bench.address);
    await find(driver, "open-file");
    await driver.executeScript(`
      const real = window.fetch;
      window.fetch = async (...asked) => {
        const reply = await real(...asked);
        if (String(asked[0]).endsWith("/api/jobs") && asked[1]?.method === "POST") window.__stored = performance.now();
        return reply;
      };
    `);
    await (await driver.findElement(byId("file-input"))).sendKeys(file);
    // Everything computed: from the moment a design is stored until its figures stand on the desk.
    all.push(await driver.executeAsyncScript<number>(until("window.__stored", 'text("figure-total") !== ""')));
    await openWire(job);
    for (const colour of ["PK", "VT"]) one.push(await recolour(colour));
  }
  // The first job again: what was worked out for it has made room for the others.
  await openWire("BIG-0");
  const cold = await recolour("OG");
  const ratios = [
    ["told by the server", everything, colours, LEAST_RATIO],
    ["on the screen", all, one, LEAST_ON_SCREEN],
  ] as const;
  for (const [where, whole, single, bound] of ratios) {
    console.log(
      `one colour of ${SIZE.wires} wires ${where}: ${median(single).toFixed(0)} ms, computing all: ${median(whole).toFixed(0)} ms, ratio ${(median(whole) / median(single)).toFixed(1)}   bound: ${bound}`,
    );
    console.log(`  (${[single, whole].map((l) => l.map((v) => v.toFixed(0)).join(", ")).join(" ms; ")} ms)`);
  }
  console.log(`  the first colour of a job that was left for ${ROUNDS - 1} others: ${cold.toFixed(0)} ms`);
  held(ratios.every(([, whole, single, bound]) => median(whole) / median(single) >= bound) && code <= MOST_KB);
} finally {
  await driver.quit();
  await bench.stop();
  rmSync(folder, { recursive: true });
}
