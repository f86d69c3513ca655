import { lookUp } from "@gray-bench/core/design/lookup";
import type { Crossing, CrossingEnd, Design } from "@gray-bench/core/design/model";
import { byText } from "@gray-bench/core/design/order";
import type { Act, Shaped } from "../edits/act";
import { renameAct } from "../edits/rename";
import { lengthText, readLength } from "../kit/quantity";
import type { Settings } from "../kit/settings";

const KINDS: readonly Crossing["kind"][] = ["hinge", "wall", "edge"];
const endText = (e: CrossingEnd): string => (e.duct === undefined ? `face ${e.face ?? "?"}` : `duct ${e.duct}`);

/** `0, 900, 40; 0, 900, 10` in the units beside the field. */
function pointsOf(text: string, settings: Settings): { x: number; y: number; z: number }[] | string {
  const points: { x: number; y: number; z: number }[] = [];
  for (const [i, one] of text.split(";").entries()) {
    const read = one.split(",").map((v) => readLength(v, settings));
    const [x, y, z] = read;
    if (read.length !== 3) return `Point ${i + 1} needs three figures with commas between them: x, y, z.`;
    const bad = read.find((r) => !r.ok);
    if (bad && !bad.ok) return `Point ${i + 1}: ${bad.reason}`;
    if (x!.ok && y!.ok && z!.ok) points.push({ x: x!.value, y: y!.value, z: z!.value });
  }
  return points.length < 2 ? "A crossing leads over two points at least; a semicolon stands between them." : points;
}

function form(
  design: Design,
  known: Crossing | null,
  settings: Settings,
): Pick<Act, "kind" | "payloads" | "asks" | "shape"> {
  const look = lookUp(design);
  const ends = [
    ...[...look.ducts.keys()].sort(byText).map((t) => `duct ${t}`),
    ...[...look.faces.keys()].sort(byText).map((t) => `face ${t}`),
  ];
  const endOf = (text: string): CrossingEnd =>
    text.startsWith("duct ") ? { duct: text.slice(5) } : { face: text.slice(5) };
  const written = (known?.points ?? [])
    .map((p) => [p.x, p.y, p.z].map((v) => lengthText(v, settings)).join(", "))
    .join("; ");
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
        label: `Points x, y, z from its lower left front corner (${settings.length}), a semicolon between two`,
        as: "text",
        ...(known ? { now: written } : {}),
      },
      {
        field: "loop",
        label: "Loop; empty: the shop's",
        as: "length",
        optional: true,
        ...(known?.loop === undefined ? {} : { now: known.loop }),
      },
    ],
    shape({ values, set }): Shaped {
      const points = known && !set.has("points") ? known.points : pointsOf(String(values.points), settings);
      if (typeof points === "string") return { ok: false, field: "points", reason: points };
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
          },
        },
      };
    },
  };
}

/** What can be done with a crossing. */
export const crossingActs = (design: Design, crossing: Crossing, settings: Settings): Act[] => [
  {
    id: "crossing",
    label: "Change figures",
    title: "Change crossing",
    about: `Crossing ${crossing.tag}: a guided way for wires from one face to another.`,
    ...form(design, crossing, settings),
  },
  renameAct("crossing", crossing.tag),
  {
    id: "remove-crossing",
    label: "Take away",
    title: "Take away",
    about: `Crossing ${crossing.tag} is taken out of the design.`,
    kind: "remove crossing",
    payloads: [{ crossing: crossing.tag }],
    asks: [],
  },
];

export const addCrossingAct = (design: Design, settings: Settings): Act => ({
  id: "add-crossing",
  label: "Add a crossing",
  title: "Add crossing",
  about: "A guided way for wires from one face to another, over a hinge, through a wall or round an edge.",
  ...form(design, null, settings),
});
