import { spawn } from "node:child_process";
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { cpus } from "node:os";
import { basename } from "node:path";
import ts from "typescript";
import { at } from "./lib.mjs";
import { SLIPS } from "./mutants/slips.mjs";

/** Of what the tests need beside node_modules. */
const COPIED = [
  "core",
  "designs",
  "docs",
  "scripts",
  "jest.config.cjs",
  "package.json",
  "tsconfig.base.json",
  "tsconfig.plain.json",
];
/** Where the tests of a stage stand, beside its own folder. */
const TESTS = {
  metalwork: ["core/src/metalwork/", "core/src/design/", "core/src/solve/"],
  panel: ["core/src/panel/", "core/src/routes/"],
  intake: ["core/src/intake/", "core/src/lineups/", "core/src/routes/"],
  edits: [
    "core/src/edits",
    "core/src/named",
    "core/src/intake/",
    "core/src/lineups/edits",
    "core/src/design/",
    "core/src/frame/",
  ],
};
/** Longer than the tests of a stage take when nothing is wrong. */
const MOST_S = 400;
/** Lists of all words: whoever changes a sentence changes them, and they see what no test of a rule does. */
const KEPT_WORDS = "core/src/(words|routes/golden)\\.test";

/** A tree of its own, in which a fault can stand without harm. */
function sandbox(n) {
  const room = at("dist/mutants/slips", String(n));
  rmSync(room, { recursive: true, force: true });
  mkdirSync(`${room}/node_modules/@gray-bench`, { recursive: true });
  for (const name of COPIED)
    cpSync(at(name), `${room}/${name}`, { recursive: true, filter: (p) => basename(p) !== "node_modules" });
  for (const name of readdirSync(at("node_modules")))
    if (name !== "@gray-bench" && !name.startsWith("."))
      symlinkSync(at("node_modules", name), `${room}/node_modules/${name}`);
  for (const name of ["core", "designs"]) symlinkSync(`${room}/${name}`, `${room}/node_modules/@gray-bench/${name}`);
  return room;
}

/** The file with the fault in it. @throws Error when the list is out of date */
function slipped({ file, from, to, slip }) {
  const text = readFileSync(at(file), "utf8");
  if (text.split(from).length !== 2) throw new Error(`"${slip}": its text does not stand just once in ${file}`);
  const next = text.replace(from, () => to);
  const { diagnostics } = ts.transpileModule(next, { reportDiagnostics: true });
  if (diagnostics.length > 0) throw new Error(`"${slip}" is no program: ${diagnostics[0].messageText}`);
  return next;
}

/** @returns the first test that noticed it; null when none did; undefined when the tests did not end */
function tried(room, one) {
  writeFileSync(`${room}/${one.file}`, slipped(one));
  const child = spawn(
    process.execPath,
    [
      at("node_modules/jest/bin/jest.js"),
      ...["--config", `${room}/scripts/mutants/jest.config.cjs`, "--bail", "--runInBand"],
      ...["--testPathIgnorePatterns", KEPT_WORDS, "--", ...(TESTS[one.stage] ?? [`core/src/${one.stage}/`])],
    ],
    {
      cwd: room,
      stdio: ["ignore", "ignore", "pipe"],
      env: { ...process.env, GRAY_BENCH_RUNS: process.env.GRAY_BENCH_RUNS ?? "0.1" },
    },
  );
  let said = "";
  child.stderr.on("data", (d) => (said += d));
  const slow = setTimeout(() => child.kill("SIGKILL"), MOST_S * 1000);
  return new Promise((resolve, reject) =>
    child.on("close", (code, signal) => {
      clearTimeout(slow);
      writeFileSync(`${room}/${one.file}`, readFileSync(at(one.file)));
      if (signal) return resolve(undefined);
      if (code === 0) return resolve(null);
      const [file, test] = [/^FAIL (\S+)/m.exec(said), /^ +● (.+)$/m.exec(said)];
      if (!file || !test || test[1].includes("failed to run"))
        return reject(new Error(`the tests did not begin for "${one.slip}":\n${said}`));
      resolve(`${file[1]}: ${test[1]}`);
    }),
  );
}

/**
 * Plants the slips one at a time and tells which of them the tests of their stage notice, kept words left out.
 * @param stages of these alone, or of those with such words; of all when none is named
 */
export async function trySlips(stages, each = false) {
  const chosen = SLIPS.filter(
    (s) =>
      stages.length === 0 || stages.some((word) => word === s.stage || (word.includes(" ") && s.slip.includes(word))),
  );
  // Before anything is run: a list that is out of date is no measure.
  chosen.forEach(slipped);
  console.log(`${chosen.length} slips${stages.length > 0 ? ` of ${stages.join(", ")}` : ""}; noticed by no test:`);
  const start = Date.now();
  const left = [...chosen];
  const noticed = new Map();
  await Promise.all(
    Array.from({ length: cpus().length }, async (_, n) => {
      const room = sandbox(n);
      for (let one = left.shift(); one; one = left.shift()) {
        const by = await tried(room, one);
        noticed.set(one, by);
        if (!by)
          console.log(`  ${one.stage}, ${one.file}: ${one.slip}${by === undefined ? " (tests did not end)" : ""}`);
        else if (each) console.log(`    ${one.slip} — ${by}`);
      }
      rmSync(room, { recursive: true, force: true });
    }),
  );
  const share = (some) => {
    const seen = some.filter((s) => noticed.get(s)).length;
    return `${seen} of ${some.length}, ${((100 * seen) / some.length).toFixed(0)} %`;
  };
  for (const stage of new Set(chosen.map((s) => s.stage)))
    console.log(`  ${stage.padEnd(10)} ${share(chosen.filter((s) => s.stage === stage))}`);
  console.log(`\n${share(chosen)} of the slips noticed (${((Date.now() - start) / 60_000).toFixed(1)} min)`);
}
