import { answering, type Answer, type Asked } from "../http";
import { listen } from "../net";
import { OPENAPI } from "./openapi";
import type { Line, Reservation, StockStore } from "./store";

export interface Listening {
  port: number;
  close(): Promise<void>;
}

/** For trying out: later, or not at all. */
interface Mood {
  slowMs: number;
  refuses: boolean;
}

const MOST_ITEMS = 5000;

const isLine = (l: unknown): l is Line => {
  const { part, quantity } = (l ?? {}) as Record<string, unknown>;
  return typeof part === "string" && part !== "" && typeof quantity === "number" && Number.isFinite(quantity);
};

const whole = (text: string | null, least: number, most: number, otherwise: number): number => {
  const n = Number(text ?? otherwise);
  return Number.isInteger(n) ? Math.min(most, Math.max(least, n)) : otherwise;
};

/** The service over HTTP. */
export function serveStock(
  store: StockStore,
  { port, host = "127.0.0.1", slowMs = 0 }: { port: number; host?: string; slowMs?: number },
): Promise<Listening> {
  const mood: Mood = { slowMs, refuses: false };
  const server = answering((asked) => handle(store, mood, asked));
  return listen(server, port, host).then((at) => ({
    port: at,
    close() {
      server.closeAllConnections();
      return new Promise((done) => server.close(() => done()));
    },
  }));
}

async function handle(store: StockStore, mood: Mood, asked: Asked): Promise<Answer> {
  const trying = /^\/try\/(slow|refuse)\/(\d{1,6})$/.exec(asked.path);
  if (trying && asked.method === "POST") {
    if (trying[1] === "slow") mood.slowMs = Number(trying[2]);
    else mood.refuses = trying[2] !== "0";
    return [200, mood];
  }
  if (mood.slowMs > 0) await new Promise((done) => setTimeout(done, mood.slowMs));
  if (mood.refuses) return [503, { error: "the stock service is being serviced" }];
  return answer(store, asked);
}

function answer(store: StockStore, { method, path, query, body }: Asked): Answer {
  const at = `${method} ${path}`;
  if (at === "GET /openapi.json") return [200, OPENAPI];
  if (at === "GET /items") {
    const from = whole(query.get("from"), 0, 10_000_000, 0);
    const most = whole(query.get("most"), 1, MOST_ITEMS, 1000);
    return [200, { at: new Date().toISOString(), items: store.items(from, most) }];
  }
  if (at === "GET /deliveries") return [200, { deliveries: store.deliveries() }];
  const item = /^\/items\/(.+)$/.exec(path);
  if (item && method === "GET") {
    const found = store.item(item[1]!);
    return found ? [200, found] : [404, { error: `there is no part ${item[1]}` }];
  }
  if (at === "POST /reservations") return reserve(store, body);
  const one = /^\/reservations\/(.+)$/.exec(path);
  if (one && method === "GET") {
    const found = store.reservation(one[1]!);
    return found ? [200, found] : [404, { error: `there is no reservation ${one[1]}` }];
  }
  if (one && method === "DELETE")
    return store.release(one[1]!) ? [200, { released: true }] : [404, { error: `there is no reservation ${one[1]}` }];
  if (at === "POST /moves") return move(store, body);
  return [404, { error: `nothing stands at ${at}` }];
}

function reserve(store: StockStore, body: unknown): Answer {
  const { id, job, lines } = (body ?? {}) as Partial<Record<keyof Reservation, unknown>>;
  if (typeof id !== "string" || id === "" || typeof job !== "string" || !Array.isArray(lines) || !lines.every(isLine))
    return [400, { error: "a reservation has id, job, and lines of part and quantity" }];
  if (lines.some((l) => l.quantity <= 0)) return [400, { error: "a quantity is more than 0" }];
  const done = store.reserve({ id, job, lines });
  if (!done.ok) return [409, { error: "not enough", missing: done.missing }];
  return [done.again ? 200 : 201, { reserved: true }];
}

function move(store: StockStore, body: unknown): Answer {
  const { id, reservation } = (body ?? {}) as { id?: unknown; reservation?: unknown };
  if (typeof id !== "string" || id === "" || !isLine(body)) return [400, { error: "a move has id, part and quantity" }];
  if (reservation !== undefined && typeof reservation !== "string")
    return [400, { error: "a reservation is named by its id" }];
  const done = store.move(id, body, reservation);
  if (done === null) return [404, { error: `there is no part ${body.part}` }];
  return done === "too little" ? [409, { error: `there is too little of ${body.part}` }] : [200, done];
}
