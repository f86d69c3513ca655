import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import type { Design, Part, Rail } from "../design/model";
import { byText } from "../design/order";
import type { KnownAct } from "../faces";
import type { Answers, Shaped } from "../frame/act";
import { renameAct } from "../intake/rename-acts";
import { even } from "./stands";

/** What can be done with a rail or a duct. */
export function barActs(design: Design, thing: "rail" | "duct", tag: string): KnownAct[] {
  const look = lookUp(design);
  const bar = (thing === "rail" ? look.rails : look.ducts).get(tag);
  if (!bar) return [];
  const parts = [...look.parts.values()].filter((p) => p.category === thing).map((p) => p.number);
  const set = { kind: "set bar", payloads: [{ thing, tag }] } as const;
  return [
    {
      id: "bar-place",
      label: "Move or stretch",
      title: "Move or stretch",
      about: `${thing} ${tag}: its lower left corner on the face, which way it runs, its length.`,
      ...set,
      asks: [
        { field: "face", label: "Face", as: "choice", choices: [...look.faces.keys()].sort(byText), now: bar.face },
        { field: "x", label: "x", as: "length", now: bar.x },
        { field: "y", label: "y", as: "length", now: bar.y },
        { field: "run", label: "Runs", as: "choice", choices: ["right", "up"], now: bar.run },
        { field: "length", label: "Length", as: "length", now: bar.length },
      ],
    },
    {
      id: "bar-part",
      label: "Exchange",
      title: "Exchange",
      about: `Another part for ${thing} ${tag}.`,
      ...set,
      asks: [{ field: "part", label: "Part", as: "choice", choices: parts.sort(byText), now: bar.part }],
    },
    ...(thing === "rail" ? rowActs(tag) : []),
    {
      id: "bar-again",
      label: "Repeat",
      title: "Repeat",
      about: `${thing} ${tag} again on ${bar.face}, beside itself, as often as wanted: each a pitch from the one before, ${bar.run === "right" ? "above it, or below it with a pitch under nought" : "to the right of it, or to the left with a pitch under nought"}.`,
      kind: "add bar",
      payloads: [{}],
      asks: [
        { field: "times", label: "How many more", as: "count", now: 1 },
        { field: "pitch", label: "Pitch", as: "length" },
      ],
      shape({ values }: Answers): Shaped {
        const { times = 1, pitch } = values;
        if (typeof pitch !== "number")
          return { ok: false, field: "pitch", reason: "How far apart they are is needed." };
        const { face, run, length, part } = bar;
        const at = run === "right" ? { x: bar.x, y: even(bar.y + pitch) } : { x: even(bar.x + pitch), y: bar.y };
        const taken = new Set((thing === "rail" ? design.rails : design.ducts).map((b) => b.tag));
        return {
          ok: true,
          payload: { thing, tag: freeName(tag, taken), part, face, ...at, run, length, times, pitch },
        };
      },
    },
    renameAct(thing, tag),
    {
      id: "bar-remove",
      label: "Delete",
      title: "Delete",
      about: `${thing} ${tag} out of the design${thing === "rail" ? "; what stands on it is loose then" : ""}. It can be undone.`,
      kind: "remove bars",
      payloads: [{ thing, tags: [tag] }],
      asIs: true,
      shown: true,
      asks: [],
    },
  ];
}

/** What stands on a rail, moved together or spread. */
const rowActs = (rail: string): KnownAct[] => [
  {
    id: "close",
    label: "Close gaps",
    title: "Close gaps",
    about: `What stands on ${rail} moves together towards its first device, in its order. With no gap given, as near as the parts allow: what they ask for beside them stays free.`,
    kind: "close gaps",
    payloads: [{ rail }],
    asIs: true,
    asks: [{ field: "gap", label: "Gap", as: "length", optional: true }],
  },
  {
    id: "even",
    label: "Even out",
    title: "Even out",
    about: `What stands on ${rail} is spread with equal gaps; the first and the last stay, and so do strips that are laid.`,
    kind: "even out",
    payloads: [{ rail }],
    asIs: true,
    asks: [],
  },
];

/**
 * A new rail or duct, one or several at a pitch; nothing where the design has no part for one.
 * @param wanted the face that is looked at
 */
export function addBarActs(design: Design, wanted?: string): KnownAct[] {
  const look = lookUp(design);
  const faces = [...look.faces.values()];
  const face = (faces.find((f) => f.id === wanted) ?? faces.find((f) => f.kind === "plate") ?? faces[0])?.id;
  const parts = new Map(
    [...look.parts.values()]
      .filter((p) => p.category === "rail" || p.category === "duct")
      .sort((a, b) => byText(b.category, a.category) || byText(a.number, b.number))
      .map((p): [string, Part] => [`${p.number}, ${p.category}`, p]),
  );
  const [first] = parts.keys();
  if (first === undefined || face === undefined) return [];
  return [
    {
      id: "add-bar",
      label: "Add a rail or duct",
      title: "Add a rail or duct",
      about: `x and y are its lower left corner on the face. Of several each stands a pitch beside the one before: above it where they lie, to the right where they stand upright; with a pitch under nought below, or to the left. With no tag given it takes the next free one.`,
      kind: "add bar",
      payloads: [{}],
      asks: [
        { field: "part", label: "Part", as: "choice", choices: [...parts.keys()], now: first },
        { field: "tag", label: "Tag", as: "text", optional: true },
        {
          field: "face",
          label: "Face",
          as: "choice",
          choices: faces.map((f) => f.id).sort(byText),
          now: face,
        },
        { field: "run", label: "Runs", as: "choice", choices: ["right", "up"], now: "right" },
        { field: "x", label: "x", as: "length" },
        { field: "y", label: "y", as: "length" },
        { field: "length", label: "Length", as: "length" },
        { field: "times", label: "How many", as: "count", now: 1 },
        { field: "pitch", label: "Pitch", as: "length", optional: true },
      ],
      shape({ values }: Answers): Shaped {
        const { times, pitch, tag, part: chosen, ...one } = values;
        for (const field of ["x", "y", "length"])
          if (typeof one[field] !== "number") return { ok: false, field, reason: `Its ${field} is needed.` };
        const isMany = typeof times === "number" && times > 1;
        if (isMany && typeof pitch !== "number")
          return { ok: false, field: "pitch", reason: "How far apart they are is needed." };
        const part = parts.get(String(chosen))!;
        const thing = part.category as "rail" | "duct";
        const list: readonly Rail[] = thing === "rail" ? design.rails : design.ducts;
        const free = freeName(list.at(-1)?.tag ?? (thing === "rail" ? "R0" : "W0"), new Set(list.map((b) => b.tag)));
        const named = typeof tag === "string" && tag.trim() !== "" ? tag : free;
        return {
          ok: true,
          payload: { thing, tag: named, part: part.number, ...one, ...(isMany ? { times, pitch } : {}) },
        };
      },
    },
  ];
}
