/** What is known of one machine: what its files look like, and what it can make. */
export interface WireTable {
  name: string;
  reads: {
    /** A list of cells, or orders in XML. */
    kind: "list" | "orders";
    separator?: string;
    decimal?: string;
    encoding: "latin1" | "utf8";
    /** Units a millimetre: 10 where lengths are in tenths. */
    perMm: number;
    list?: string;
    lead?: string;
    columns: Record<"number" | "wire" | "reel" | "size" | "length" | Side<"strip" | "end" | "text">, string> &
      Partial<Record<Side<"part">, string>>;
    /** Its codes for what is put on an end. */
    ends: Record<string, string>;
  };
  /** mm² */
  size: [least: number, most: number];
  /** mm */
  length: [least: number, most: number];
  strip: [least: number, most: number];
  textHolds: number;
  seconds: { lead: number; metre: number; reel: number; end: number };
  /** Pieces that a full magazine holds. */
  magazine: number;
}

type Side<T extends string> = `${T}A` | `${T}B`;

/** @throws Error that says what is missing */
export function readWireTable(text: string): WireTable {
  const table = JSON.parse(text) as WireTable;
  for (const key of ["name", "reads", "size", "length", "strip", "textHolds", "seconds", "magazine"] as const)
    if (table[key] === undefined) throw new Error(`the table of the machine says no ${key}`);
  return table;
}

export interface OrderEnd {
  end: string;
  /** Empty for a bare end. */
  part: string;
  strip: number;
  text: string;
}

/** One lead as the machine is told to make it. Lengths in mm. */
export interface Order {
  /** Line of the file, or number of the element. */
  at: number;
  number: number;
  wire: string;
  reel: string;
  size: number;
  length: number;
  a: OrderEnd;
  b: OrderEnd;
}

/** How a lead came out. */
export interface Made {
  wire: string;
  length: number;
  result: "good" | "pull force" | "jammed";
}

export interface Fault {
  at: number;
  text: string;
}

export type OrdersRead = { ok: true; orders: Order[] } | { ok: false; faults: Fault[] };
