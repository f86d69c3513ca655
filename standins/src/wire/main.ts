import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { fileJournal } from "./journal";
import { WireMachine } from "./machine";
import { serveWire } from "./serve";
import { readWireTable } from "./table";

const USE = `A simulated machine for leads.

  wire --machine FILE --journal FILE.jsonl [--tcp 7021] [--http 7022] [--folder DIR] [--factor 60]
       [--pull N] [--jam N] [--seed N] [--host 127.0.0.1]

FILE says what it reads and what it can make (see standins/machines). The journal is what it goes on from after it was ended.
--pull and --jam: of a thousand leads so many fail.`;

const { values } = parseArgs({
  options: {
    machine: { type: "string" },
    journal: { type: "string" },
    tcp: { type: "string", default: "7021" },
    http: { type: "string", default: "7022" },
    folder: { type: "string" },
    factor: { type: "string", default: "60" },
    pull: { type: "string", default: "0" },
    jam: { type: "string", default: "0" },
    seed: { type: "string", default: "1" },
    host: { type: "string", default: "127.0.0.1" },
  },
});

const number = (name: "tcp" | "http" | "factor" | "pull" | "jam" | "seed"): number => {
  const value = Number(values[name]);
  if (Number.isFinite(value) && value >= 0) return value;
  console.error(`--${name} takes a number from 0, not ${values[name]}`);
  process.exit(2);
};

if (values.machine === undefined || values.journal === undefined) {
  console.error(USE);
  process.exit(2);
}
try {
  const table = readWireTable(readFileSync(values.machine, "utf8"));
  const trouble = { pull: number("pull"), jam: number("jam"), seed: number("seed") };
  const machine = new WireMachine(table, fileJournal(values.journal), trouble);
  const at = await serveWire(machine, {
    tcp: number("tcp"),
    http: number("http"),
    factor: number("factor"),
    host: values.host,
    ...(values.folder === undefined ? {} : { folder: values.folder }),
  });
  console.log(`${table.name} takes files on port ${at.tcp} and tells of them on http://${values.host}:${at.http}`);
} catch (e) {
  console.error((e as Error).message);
  process.exit(1);
}
