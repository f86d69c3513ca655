import { lookUp } from "../design/lookup";
import type { Crossing, CrossingEnd, Design } from "../design/model";
import { byText } from "../design/order";
import type { KnownAct } from "../faces";
import type { Act, Shaped } from "../frame/act";
import { renameAct } from "../intake/rename-acts";

/** Lengths in the units of whoever reads and types. */
export interface Lengths {
  /** `mm`, `in` */
  unit: string;
  write(mm: number): string;
  /** In mm. */
  read(text: string): { ok: true; value: number } | { ok: false; reason: string };
}

const KINDS: readonly Crossing["kind"][] = ["hinge", "wall", "edge"];
const endText = (e: CrossingEnd): string => (e.duct === undefined ? `face ${e.face ?? "?"}` : `duct ${e.duct}`);

/** `0, 900, 40; 0, 900, 10` in the units beside the field. */
function pointsOf(text: string, lengths: Lengths): { x: number; y: number; z: number }[] | string {
  const points: { x: number; y: number; z: number }[] = [];
  for (const [i, one] of text.split(";").entries()) {
    const read = one.split(",").map((v) => lengths.read(v));
    const [x, y, z] = read;
    if (read.length !== 3) return `Point ${i + 1} needs three figures with commas between them: x, y, z.`;
    const bad = read.find((r) => !r.ok);
    if (bad && !bad.ok) return `Point ${i + 1}: ${bad.reason}`;
    if (x!.ok && y!.ok && z!.ok) points.push({ x: x!.value, y: y!.value, z: z!.value });
  }
  return points.length < 2 ? "A crossing leads over two points at least; a semicolon stands between them." : points;
}

/** `1, 3`: the numbers of two points; nothing where nothing is written. */
function heldOf(text: string, points: number): [number, number] | undefined | string {
  if (text.trim() === "") return undefined;
  const [one, two, ...more] = text.split(/[,\s]+/).map(Number);
  const fits = (n: number | undefined): n is number => n !== undefined && Number.isInteger(n) && n >= 1 && n <= points;
  return fits(one) && fits(two) && one !== two && more.length === 0
    ? [one, two]
    : `Two different numbers from 1 to ${points} with a comma between them, one for each point where it is held.`;
}

function form(
  design: Design,
  known: Crossing | null,
  lengths: Lengths,
): Pick<Act, "asks" | "shape"> & { kind: "set crossing"; payloads: [object] } {
  const look = lookUp(design);
  const ends = [
    ...[...look.ducts.keys()].sort(byText).map((t) => `duct ${t}`),
    ...[...look.faces.keys()].sort(byText).map((t) => `face ${t}`),
  ];
  const endOf = (text: string): CrossingEnd =>
    text.startsWith("duct ") ? { duct: text.slice(5) } : { face: text.slice(5) };
  const written = (known?.points ?? []).map((p) => [p.x, p.y, p.z].map((v) => lengths.write(v)).join(", ")).join("; ");
  return {
    kind: "set crossing",
    payloads: [{}],
    asks: [
      ...(known ? [] : [{ field: "tag", label: "Tag", as: "text" as const }]),
      { field: "kind", label: "Leads over", as: "choice", choices: KINDS, ...(known ? { now: known.kind } : {}) },
      { field: "from", label: "From", as: "choice", choices: ends, ...(known ? { now: endText(known.from) } : {}) },
      { field: "to", label: "To", as: "choice", choices: ends, ...(known ? { now: endText(known.to) } : {}) },
      {
        field: "enclosure",
        label: "Figures counted in enclosure",
        as: "choice",
        choices: [...look.enclosures.keys()],
        ...(known ? { now: known.enclosure } : {}),
      },
      {
        field: "points",
        label: `Points x, y, z from its lower left front corner (${lengths.unit}), a semicolon between two`,
        as: "text",
        ...(known ? { now: written } : {}),
      },
      {
        field: "loop",
        label: "Loop; empty: what its door and the shop's rule ask for",
        as: "length",
        optional: true,
        ...(known?.loop === undefined ? {} : { now: known.loop }),
      },
      {
        field: "held",
        label: "Held at two of its points, such as 1, 3; empty: at its ends",
        as: "text",
        optional: true,
        ...(known?.held === undefined ? {} : { now: known.held.join(", ") }),
      },
    ],
    shape({ values, set }): Shaped {
      const points = known && !set.has("points") ? known.points : pointsOf(String(values.points), lengths);
      if (typeof points === "string") return { ok: false, field: "points", reason: points };
      const held = known && !set.has("held") ? known.held : heldOf(String(values.held ?? ""), points.length);
      if (typeof held === "string") return { ok: false, field: "held", reason: held };
      return {
        ok: true,
        payload: {
          crossing: {
            tag: known?.tag ?? values.tag,
            kind: values.kind,
            from: endOf(String(values.from)),
            to: endOf(String(values.to)),
            enclosure: values.enclosure,
            points,
            ...(typeof values.loop === "number" ? { loop: values.loop } : {}),
            ...(held ? { held } : {}),
          },
        },
      };
    },
  };
}

/** How the door swings that a crossing leads onto. */
function doorActs(design: Design, { from, to }: Crossing): KnownAct[] {
  const look = lookUp(design);
  const face = [from, to]
    .map((e) => look.faces.get(e.face ?? look.ducts.get(e.duct ?? "")?.face ?? ""))
    .find((f) => f?.kind === "door");
  const body = face && look.enclosures.get(face.enclosure);
  if (!body) return [];
  return [
    {
      id: "door",
      label: "How its door swings",
      title: `Door of ${body.tag}`,
      about:
        "What a bundle over the hinge needs follows from the side on which the door is hung and from how far it opens.",
      kind: "set door",
      payloads: [{ enclosure: body.tag }],
      asks: [
        {
          field: "hinge",
          label: "Hung on, seen from the front",
          as: "choice",
          choices: ["left", "right"],
          ...(body.hinge ? { now: body.hinge } : {}),
        },
        {
          field: "opensDeg",
          label: "Opens by, degrees; empty: as the shop says",
          as: "count",
          optional: true,
          ...(body.opensDeg === undefined ? {} : { now: body.opensDeg }),
        },
      ],
    },
  ];
}

/** What can be done with a crossing. */
export const crossingActs = (design: Design, crossing: Crossing, lengths: Lengths): KnownAct[] => [
  {
    id: "crossing",
    label: "Change figures",
    title: "Change crossing",
    about: `Crossing ${crossing.tag}: a guided way for wires from one face to another.`,
    ...form(design, crossing, lengths),
  },
  ...doorActs(design, crossing),
  renameAct("crossing", crossing.tag),
  {
    id: "remove-crossing",
    label: "Delete",
    title: "Delete the crossing",
    about: `Crossing ${crossing.tag} is taken out of the design.`,
    kind: "remove crossing",
    payloads: [{ crossing: crossing.tag }],
    asks: [],
  },
];

export const addCrossingAct = (design: Design, lengths: Lengths): KnownAct => ({
  id: "add-crossing",
  label: "Add a crossing",
  title: "Add crossing",
  about: "A guided way for wires from one face to another, over a hinge, through a wall or round an edge.",
  ...form(design, null, lengths),
});
