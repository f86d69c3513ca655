import fc from "fast-check";
import { EDITS } from "./edits";
import type { Design } from "./design/model";
import type { Ask, Mend } from "./design/open-points";
import { checkDesign } from "./design/read";
import { runStages } from "./run";
import { demo } from "./test/demo";
import { EVERYTHING } from "./test/everything";
import { randomDesigns } from "./test/random-design";
import { ALL_DRAWN, runs } from "./test/runs";

/** Every mend that an open point offers is an edit of its kind: with what it asks answered, its form is right. */

function answerTo({ field, as, choices, now }: Ask, design: Design): string | number | null {
  switch (as) {
    case "choice":
      return choices![0]!;
    case "part":
      return choices?.[0] ?? design.parts[0]?.number ?? null;
    case "colour":
      return now ?? "BU";
    case "class":
      return now ?? "control";
    case "strand":
      return now ?? "fine";
    case "text":
      return now ?? (field === "to" || field === "device" ? design.devices[0]!.tag : "Z1");
    default:
      return now ?? 2;
  }
}

/** A payload with a field written, where its name leads. */
function withField(payload: object, field: string, value: unknown): object {
  const [first, ...rest] = field.split(".") as [string, ...string[]];
  const inner = (payload as Record<string, unknown>)[first];
  return { ...payload, [first]: rest.length === 0 ? value : withField((inner ?? {}) as object, rest.join("."), value) };
}

function answered(mend: Mend, design: Design): object | null {
  let { payload } = mend;
  for (const ask of mend.asks) {
    const value = answerTo(ask, design);
    if (value === null) return null;
    payload = withField(payload, ask.field, value);
  }
  return payload;
}

const met = new Map<string, { times: number; fits: number }>();

function tryAll(design: Design): void {
  for (const point of runStages(design).open)
    for (const mend of [...(point.mend ? [point.mend] : []), ...(point.cause?.mends ?? [])]) {
      const payload = answered(mend, design);
      if (!payload) continue;
      const edit = { kind: mend.kind, payload };
      const faults = EDITS.faults(mend.kind, payload);
      if (faults.length > 0) throw new Error(`${point.kind}: ${mend.label}: ${JSON.stringify([edit, faults])}`);
      expect(mend.label).not.toBe("");
      for (const ask of mend.asks) expect(ask.label).not.toBe("");
      const seen = met.get(mend.kind) ?? { times: 0, fits: 0 };
      met.set(mend.kind, { times: seen.times + 1, fits: seen.fits + Number(EDITS.apply(design, edit).ok) });
    }
}

/** What a design may lack, by list: taken out, an open point says so. */
const MAY_LACK: { [L in keyof Design]?: readonly string[] } = {
  devices: ["on", "part", "sheet", "when"],
  strips: ["at", "rail", "jumpers", "sides"],
  wires: ["from", "to", "sizeMm2", "colour", "type", "net", "class", "when"],
  nets: ["class", "sizeMm2", "colour", "voltage"],
  parts: ["pins", "holes", "mounts", "lossW", "terminal", "duct", "text"],
  cables: ["type", "from", "to"],
  crossings: ["points", "from"],
};

/** A sample as it would be sent: here and there something of it is missing, or something it names. */
const wounded = (sample: Design): fc.Arbitrary<Design> =>
  fc
    .array(
      fc.record({ list: fc.constantFrom(...(Object.keys(MAY_LACK) as (keyof Design)[])), at: fc.nat(), of: fc.nat() }),
      {
        minLength: 10,
        maxLength: 40,
      },
    )
    .map((wounds) => {
      const design = { ...sample } as Record<string, unknown>;
      for (const { list, at, of } of wounds) {
        const items = [...(design[list] as object[])];
        if (items.length === 0) continue;
        const fields = MAY_LACK[list]!;
        const item = { ...items[at % items.length] } as Record<string, unknown>;
        const field = fields[of % (fields.length + 1)];
        if (field === undefined) items.splice(at % items.length, 1);
        else {
          delete item[field];
          items[at % items.length] = item;
        }
        design[list] = items;
      }
      // What the form does not let go is no wound.
      return checkDesign(design).ok ? (design as unknown as Design) : sample;
    });

/** Edits that open points of these offer, and that can be laid. */
const MENDING =
  "add cable|add device|add net|change wire|forget|fuse|lead elsewhere|place|set bar|set class|set condition|set crossing|set door|set fixing|set net|set part|set wires|side of conductor".split(
    "|",
  );

test("of all that is wrong in samples, in samples that lack something, and in random designs, each mend is an edit", () => {
  const samples = [EVERYTHING, demo("larkmoor"), demo("hillfold")];
  for (const design of samples) tryAll(design);
  fc.assert(fc.property(randomDesigns, tryAll), { numRuns: runs(60, 30), seed: 3 });
  for (const sample of samples) fc.assert(fc.property(wounded(sample), tryAll), { numRuns: runs(8, 6), seed: 5 });
  const fit = [...met].filter(([, { fits }]) => fits > 0).map(([kind]) => kind);
  if (ALL_DRAWN) for (const kind of MENDING) expect(fit).toContain(kind);
  expect(met.get("set wires")!.fits / met.get("set wires")!.times).toBeGreaterThan(0.9);
});
