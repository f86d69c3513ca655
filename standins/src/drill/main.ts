import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { serve } from "./serve";
import { DrillingMachine } from "./shop";
import { readTable } from "./table";

const USE = `A simulated drilling machine.

  drill --machine FILE [--tcp 7011] [--http 7012] [--folder DIR] [--factor 60] [--slow MS] [--host 127.0.0.1]

FILE says what stands on it: area, tools, clamps, what its control reads (see standins/machines).
It runs FACTOR times as fast as a real one.`;

const { values } = parseArgs({
  options: {
    machine: { type: "string" },
    tcp: { type: "string", default: "7011" },
    http: { type: "string", default: "7012" },
    folder: { type: "string" },
    factor: { type: "string", default: "60" },
    slow: { type: "string", default: "0" },
    host: { type: "string", default: "127.0.0.1" },
  },
});

const number = (name: string, text: string): number => {
  const value = Number(text);
  if (Number.isFinite(value) && value >= 0) return value;
  console.error(`--${name} takes a number from 0, not ${text}`);
  process.exit(2);
};

if (values.machine === undefined) {
  console.error(USE);
  process.exit(2);
}
try {
  const table = readTable(readFileSync(values.machine, "utf8"));
  const machine = new DrillingMachine(table, number("factor", values.factor));
  const at = await serve(machine, {
    tcp: number("tcp", values.tcp),
    http: number("http", values.http),
    ...(values.folder === undefined ? {} : { folder: values.folder }),
    slowMs: number("slow", values.slow),
    host: values.host,
  });
  console.log(`${table.name} takes programs on port ${at.tcp} and tells of them on http://${values.host}:${at.http}`);
} catch (e) {
  console.error((e as Error).message);
  process.exit(1);
}
