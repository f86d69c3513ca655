import { parseArgs } from "node:util";
import { answering, type Answer, type Asked } from "../http";
import { filesOverTcp, listen } from "../net";
import { LabelPrinter } from "./printer";

const USE = `A simulated printer for labels.

  labels --journal FILE.jsonl [--tcp 7031] [--http 7032] [--factor 60] [--roll N] [--host 127.0.0.1]

It takes a file over TCP: the first line is its name. The journal is what it goes on from after it was ended; a roll holds N labels.`;

const SECONDS_EACH = 1.5;
const TICK_MS = 50;

const { values } = parseArgs({
  options: {
    journal: { type: "string" },
    tcp: { type: "string", default: "7031" },
    http: { type: "string", default: "7032" },
    factor: { type: "string", default: "60" },
    roll: { type: "string", default: "500" },
    host: { type: "string", default: "127.0.0.1" },
  },
});

const number = (name: "tcp" | "http" | "factor" | "roll"): number => {
  const value = Number(values[name]);
  if (Number.isFinite(value) && value >= 0) return value;
  console.error(`--${name} takes a number from 0, not ${values[name]}`);
  process.exit(2);
};

if (values.journal === undefined) {
  console.error(USE);
  process.exit(2);
}
const printer = new LabelPrinter(values.journal, SECONDS_EACH, number("roll"));

const said = ({ method, path }: Asked): Answer => {
  const at = `${method} ${path}`;
  if (at === "GET /") {
    const jobs = printer.jobs().map(({ labels, ...job }) => ({ ...job, labels: labels.length }));
    return [200, { ...printer.state(), jobs }];
  }
  const one = /^GET \/jobs\/(\d+)$/.exec(at);
  if (one) {
    const job = printer.jobs()[Number(one[1]) - 1];
    return job ? [200, job] : [404, { error: "there is no such job" }];
  }
  const stopped = /^POST \/jobs\/(\d+)\/stop$/.exec(at);
  if (stopped)
    return printer.stop(Number(stopped[1])) ? [200, { stopped: true }] : [409, { error: "it is not running" }];
  if (at === "POST /roll") return printer.roll() ? [200, { put: true }] : [409, { error: "no roll is wanted" }];
  return [404, { error: `nothing stands at ${at}` }];
};

const http = answering(said);
const tcp = filesOverTcp((name, file) => {
  const taken = printer.take(name, file);
  return taken.ok ? `taken ${taken.id}` : `refused: ${taken.fault}`;
});
let last = performance.now();
setInterval(() => {
  const now = performance.now();
  printer.advance(((now - last) / 1000) * number("factor"));
  last = now;
}, TICK_MS);
try {
  const [line, tells] = await Promise.all([
    listen(tcp, number("tcp"), values.host),
    listen(http, number("http"), values.host),
  ]);
  console.log(`The printer takes files on port ${line} and tells of them on http://${values.host}:${tells}`);
} catch (e) {
  console.error((e as Error).message);
  process.exit(1);
}
