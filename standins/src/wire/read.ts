import { DOMParser } from "@xmldom/xmldom";
import { parse } from "csv-parse/sync";
import type { Fault, Order, OrderEnd, OrdersRead, WireTable } from "./table";

type Cells = Record<string, string>;

const MOST_FAULTS = 20;

/** Reads a file as strictly as the machine would: every fault with its place, and nothing is made of a file that has one. */
export function readOrders(bytes: Uint8Array, table: WireTable): OrdersRead {
  const { reads } = table;
  let rows: { at: number; cells: Cells }[];
  try {
    const text = Buffer.from(bytes).toString(reads.encoding);
    if (reads.encoding === "utf8" && text.includes("\uFFFD")) throw new Error("it is no UTF-8");
    rows = reads.kind === "list" ? listed(text, table) : ordered(text, table);
  } catch (error) {
    return { ok: false, faults: [{ at: 1, text: (error as Error).message }] };
  }
  if (rows.length === 0) return { ok: false, faults: [{ at: 1, text: "there is nothing to make" }] };
  const faults: Fault[] = [];
  const orders = rows.map(({ at, cells }, i) => orderOf(cells, at, i + 1, table, (text) => faults.push({ at, text })));
  const twice = new Set<string>();
  for (const o of orders) {
    if (twice.has(o.wire)) faults.push({ at: o.at, text: `wire ${o.wire} stands twice` });
    twice.add(o.wire);
  }
  return faults.length > 0 ? { ok: false, faults: faults.slice(0, MOST_FAULTS) } : { ok: true, orders };
}

function listed(text: string, { reads }: WireTable): { at: number; cells: Cells }[] {
  if (!text.endsWith("\r\n")) throw new Error("the last line does not end");
  const rows = parse(text, { delimiter: reads.separator ?? ";", record_delimiter: "\r\n" }) as string[][];
  const [head, ...rest] = rows;
  if (!head) throw new Error("there is no line of names");
  for (const name of Object.values(reads.columns))
    if (!head.includes(name)) throw new Error(`there is no column ${name}`);
  return rest.map((row, i) => ({ at: i + 2, cells: Object.fromEntries(head.map((h, k) => [h, row[k] ?? ""])) }));
}

function ordered(text: string, { reads }: WireTable): { at: number; cells: Cells }[] {
  const trouble: string[] = [];
  const note = (message: string): void => void trouble.push(message);
  const doc = new DOMParser({ errorHandler: { warning: note, error: note, fatalError: note } }).parseFromString(
    text,
    "text/xml",
  );
  if (trouble.length > 0 || !doc?.documentElement) throw new Error("it is no XML");
  if (doc.documentElement.nodeName !== reads.list) throw new Error(`it is no list of ${reads.list ?? ""}`);
  return Array.from(doc.documentElement.getElementsByTagName(reads.lead!)).map((element, i) => ({
    at: i + 1,
    cells: Object.fromEntries(
      Array.from(element.childNodes)
        .filter((n) => n.nodeType === 1)
        .map((n) => [n.nodeName, n.textContent ?? ""]),
    ),
  }));
}

function orderOf(cells: Cells, at: number, nth: number, table: WireTable, fault: (text: string) => void): Order {
  const { reads, size: sizes, length: lengths, strip: strips } = table;
  const { columns, perMm, decimal = "." } = reads;
  const text = (key: keyof typeof columns): string => cells[columns[key] ?? ""] ?? "";
  const number = (key: keyof typeof columns, [least, most]: readonly [number, number], per: number): number => {
    const said = text(key);
    const plain = decimal === "." ? said : said.replace(decimal, ".");
    const value = /^\d+(\.\d+)?$/.test(plain) && !(decimal !== "." && said.includes(".")) ? Number(plain) / per : NaN;
    if (Number.isNaN(value)) fault(`${columns[key]} is "${said}", which is no number`);
    else if (value < least || value > most) fault(`${columns[key]} is ${value}; it takes ${least} to ${most}`);
    return value;
  };
  const end = (side: "A" | "B"): OrderEnd => {
    // The code, and behind a blank the part where it has no column of its own.
    const [code = "", ...rest] = text(`end${side}`).split(" ");
    const kind = reads.ends[code];
    if (kind === undefined) fault(`${columns[`end${side}`]} is "${code}", which it does not know`);
    const part = columns[`part${side}`] === undefined ? rest.join(" ") : text(`part${side}`);
    if (kind !== undefined && kind !== "bare" && part === "") fault(`${columns[`end${side}`]} says no part`);
    const said = text(`text${side}`);
    if ([...said].length > table.textHolds) fault(`${columns[`text${side}`]} has more than ${table.textHolds} signs`);
    return {
      end: kind ?? "",
      part: kind === "bare" ? "" : part,
      strip: number(`strip${side}`, strips, perMm),
      text: said,
    };
  };
  const [wire, reel] = [text("wire"), text("reel")];
  if (wire === "") fault(`${columns.wire} is empty`);
  if (reel === "") fault(`${columns.reel} is empty`);
  const counted = number("number", [1, 1e9], 1);
  if (!Number.isNaN(counted) && counted !== nth) fault(`${columns.number} is ${counted}; ${nth} comes here`);
  return {
    at,
    number: counted,
    wire,
    reel,
    size: number("size", sizes, 1),
    length: number("length", lengths, perMm),
    a: end("A"),
    b: end("B"),
  };
}
