import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { serveStock } from "./serve";
import { StockStore, type Delivery, type Item } from "./store";

const USE = `A simulated stock service.

  stock --data FILE.db [--items FILE.json] [--port 7031] [--slow MS] [--host 127.0.0.1]

FILE.json: { "items": [{ part, text, place, pack, level }], "deliveries": [{ part, quantity, due }] }; parts that are there
already keep their level. GET /openapi.json says what it answers.`;

const { values } = parseArgs({
  options: {
    data: { type: "string" },
    items: { type: "string" },
    port: { type: "string", default: "7031" },
    slow: { type: "string", default: "0" },
    host: { type: "string", default: "127.0.0.1" },
  },
});

if (values.data === undefined) {
  console.error(USE);
  process.exit(2);
}
try {
  const store = new StockStore(values.data);
  if (values.items !== undefined) {
    const { items = [], deliveries = [] } = JSON.parse(readFileSync(values.items, "utf8")) as {
      items?: Item[];
      deliveries?: Delivery[];
    };
    store.fill(items, deliveries);
  }
  const { port } = await serveStock(store, {
    port: Number(values.port),
    host: values.host,
    slowMs: Number(values.slow),
  });
  console.log(`the stock service listens on http://${values.host}:${port}`);
} catch (e) {
  console.error((e as Error).message);
  process.exit(1);
}
