import {
  appendFileSync,
  closeSync,
  existsSync,
  fsyncSync,
  openSync,
  readFileSync,
  truncateSync,
  writeSync,
} from "node:fs";
import type { Made, Order } from "./table";

/** What the machine must know again after it was ended. */
export type Note =
  | { what: "taken"; id: number; name: string; orders: Order[] }
  | ({ what: "made"; id: number } & Made)
  | { what: "stopped"; id: number }
  | { what: "mounted"; reel: string; metres: number }
  | { what: "filled"; part: string };

export interface Journal {
  read(): Note[];
  write(note: Note): void;
}

/** Kept in memory: for trying out. */
export function memoryJournal(): Journal {
  const notes: Note[] = [];
  return { read: () => [...notes], write: (note) => void notes.push(structuredClone(note)) };
}

/** A line for each note, on the disk before it counts. A last line that was not finished never happened. */
export function fileJournal(file: string): Journal {
  if (existsSync(file)) {
    const text = readFileSync(file, "utf8");
    const whole = text.lastIndexOf("\n") + 1;
    if (whole < text.length) truncateSync(file, Buffer.byteLength(text.slice(0, whole)));
  } else appendFileSync(file, "");
  const handle = openSync(file, "a");
  process.once("exit", () => closeSync(handle));
  return {
    read: () =>
      readFileSync(file, "utf8")
        .split("\n")
        .filter((l) => l !== "")
        .map((l) => JSON.parse(l) as Note),
    write(note) {
      writeSync(handle, `${JSON.stringify(note)}\n`);
      fsyncSync(handle);
    },
  };
}
