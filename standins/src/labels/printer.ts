import { closeSync, existsSync, fsyncSync, openSync, readFileSync, truncateSync, writeSync } from "node:fs";

/** A label as it is to be printed. */
export interface Label {
  media: string;
  text: string;
}

export interface PrintJob {
  id: number;
  name: string;
  state: "waiting" | "running" | "done" | "stopped";
  labels: Label[];
  printed: number;
}

type Note =
  | { what: "taken"; id: number; name: string; labels: Label[] }
  | { what: "printed"; id: number }
  | { what: "stopped"; id: number }
  | { what: "roll"; media: string };

export interface Read {
  ok: boolean;
  labels: Label[];
  fault: string;
}

const MEDIA = ["sleeve", "flag"] as const;
/** Signs that fit on one, by what it is. */
const HOLDS: Record<(typeof MEDIA)[number], number> = { sleeve: 40, flag: 60 };

/** Reads a file as strictly as the printer would: `labels 1`, then media and labels, then `end` with their number; cells parted by tabs. */
function readLabels(bytes: Uint8Array): Read {
  const refuse = (line: number, text: string): Read => ({ ok: false, labels: [], fault: `line ${line}: ${text}` });
  const text = Buffer.from(bytes).toString("utf8");
  if (text.includes("\uFFFD")) return refuse(1, "it is no UTF-8");
  if (!text.endsWith("\n")) return refuse(1, "the last line does not end");
  const lines = text.slice(0, -1).split("\n");
  if (lines[0] !== "labels\t1") return refuse(1, "it does not begin with labels and 1");
  const labels: Label[] = [];
  let media: { name: string; holds: number } | null = null;
  for (let i = 1; i < lines.length; i++) {
    const [what, ...cells] = lines[i]!.split("\t");
    if (what === "media") {
      const kind = MEDIA.find((m) => m === cells[0]);
      if (!kind || cells.length !== 2 || !(Number(cells[1]) > 0)) return refuse(i + 1, "it knows no such media");
      media = { name: cells.join(" "), holds: HOLDS[kind] };
    } else if (what === "label") {
      if (!media) return refuse(i + 1, "no media was named before it");
      if (cells.length !== 2) return refuse(i + 1, "a label has a name and a text");
      const said = cells[1]!;
      if (said === "") return refuse(i + 1, "there is nothing on it");
      if ([...said].length > media.holds) return refuse(i + 1, `it has more than ${media.holds} signs`);
      labels.push({ media: media.name, text: said });
    } else if (what === "end") {
      if (i !== lines.length - 1) return refuse(i + 1, "something comes after the end");
      if (Number(cells[0]) !== labels.length) return refuse(i + 1, `it has ${labels.length} labels, not ${cells[0]}`);
      return labels.length > 0 ? { ok: true, labels, fault: "" } : refuse(i + 1, "there is nothing to print");
    } else return refuse(i + 1, `it does not know "${what}"`);
  }
  return refuse(lines.length, "the end is missing");
}

/** A printer for labels. It keeps a journal: after it was ended at any moment it goes on with the next label. */
export class LabelPrinter {
  readonly #jobs: PrintJob[] = [];
  readonly #handle: number;
  readonly #secondsEach: number;
  readonly #rollHolds: number;
  #roll: { media: string; left: number } | null = null;
  #leftS = 0;

  /** @param rollHolds labels on a roll */
  constructor(journal: string, secondsEach: number, rollHolds: number) {
    this.#secondsEach = secondsEach;
    this.#rollHolds = rollHolds;
    if (existsSync(journal)) {
      const text = readFileSync(journal, "utf8");
      const whole = text.slice(0, text.lastIndexOf("\n") + 1);
      if (whole.length < text.length) truncateSync(journal, Buffer.byteLength(whole));
      for (const line of whole.split("\n")) if (line !== "") this.#apply(JSON.parse(line) as Note);
    }
    this.#handle = openSync(journal, "a");
  }

  close(): void {
    closeSync(this.#handle);
  }

  take(name: string, bytes: Uint8Array): { ok: true; id: number } | { ok: false; fault: string } {
    const read = readLabels(bytes);
    if (!read.ok) return { ok: false, fault: read.fault };
    const known = this.#jobs.find((j) => j.name === name);
    if (known) return { ok: false, fault: `${name} was taken before, as job ${known.id}` };
    const id = this.#jobs.length + 1;
    this.#write({ what: "taken", id, name, labels: read.labels });
    return { ok: true, id };
  }

  jobs(): readonly PrintJob[] {
    return this.#jobs;
  }

  stop(id: number): boolean {
    const job = this.#jobs[id - 1];
    if (!job || job.state === "done" || job.state === "stopped") return false;
    this.#write({ what: "stopped", id });
    return true;
  }

  /** The roll that is wanted is put in. */
  roll(): boolean {
    const media = this.#wanted();
    if (media === null) return false;
    this.#write({ what: "roll", media });
    return true;
  }

  state() {
    const job = this.#current();
    const wanted = this.#wanted();
    return {
      state: wanted !== null ? "waiting" : job ? "running" : "idle",
      wait:
        wanted === null
          ? null
          : { kind: "roll", media: wanted, why: this.#roll?.media === wanted ? "run out" : "not in" },
      roll: this.#roll,
      job: job?.id ?? null,
      readyS: job ? Math.round((job.labels.length - job.printed) * this.#secondsEach) : 0,
    };
  }

  advance(seconds: number): void {
    this.#leftS += seconds;
    while (this.#leftS >= this.#secondsEach) {
      const job = this.#current();
      if (!job || this.#wanted() !== null) {
        this.#leftS = 0;
        return;
      }
      this.#leftS -= this.#secondsEach;
      this.#write({ what: "printed", id: job.id });
    }
  }

  #current(): PrintJob | undefined {
    return this.#jobs.find((j) => j.state === "waiting" || j.state === "running");
  }

  /** Media that has to be put in; null where it may go on. */
  #wanted(): string | null {
    const job = this.#current();
    const media = job?.labels[job.printed]?.media;
    return media === undefined || (this.#roll?.media === media && this.#roll.left > 0) ? null : media;
  }

  #write(note: Note): void {
    writeSync(this.#handle, `${JSON.stringify(note)}\n`);
    fsyncSync(this.#handle);
    this.#apply(note);
  }

  #apply(note: Note): void {
    if (note.what === "roll") this.#roll = { media: note.media, left: this.#rollHolds };
    else if (note.what === "taken")
      this.#jobs.push({ id: note.id, name: note.name, state: "waiting", labels: note.labels, printed: 0 });
    else {
      const job = this.#jobs[note.id - 1]!;
      if (note.what === "stopped") job.state = "stopped";
      else {
        job.printed++;
        if (this.#roll) this.#roll.left--;
        job.state = job.printed === job.labels.length ? "done" : "running";
      }
    }
  }
}
