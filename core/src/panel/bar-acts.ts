import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import type { Design, Rail } from "../design/model";
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

/** A new rail or duct, one or several at a pitch. */
export function addBarActs(design: Design): KnownAct[] {
  const look = lookUp(design);
  const faces = [...look.faces.values()];
  const ids = faces.map((f) => f.id).sort(byText);
  const plate = faces.find((f) => f.kind === "plate") ?? faces[0];
  return (["rail", "duct"] as const).flatMap((thing): KnownAct[] => {
    const parts = [...look.parts.values()].filter((p) => p.category === thing).map((p) => p.number);
    const list: readonly Rail[] = thing === "rail" ? design.rails : design.ducts;
    const last = list[list.length - 1];
    const face = last?.face ?? plate?.id;
    if (parts.length === 0 || face === undefined) return [];
    const tag = freeName(last?.tag ?? (thing === "rail" ? "R0" : "W0"), new Set(list.map((b) => b.tag)));
    return [
      {
        id: `add-${thing}`,
        label: `Add a ${thing}`,
        title: `Add a ${thing}`,
        about: `x and y are its lower left corner on the face. Of several each stands a pitch beside the one before: above it where they lie, to the right where they stand upright; with a pitch under nought below, or to the left.`,
        kind: "add bar",
        payloads: [{ thing }],
        asks: [
          { field: "tag", label: "Tag", as: "text", now: tag },
          { field: "part", label: "Part", as: "choice", choices: parts.sort(byText), now: last?.part ?? parts[0]! },
          { field: "face", label: "Face", as: "choice", choices: ids, now: face },
          { field: "run", label: "Runs", as: "choice", choices: ["right", "up"], now: "right" },
          { field: "x", label: "x", as: "length" },
          { field: "y", label: "y", as: "length" },
          { field: "length", label: "Length", as: "length" },
          { field: "times", label: "How many", as: "count", now: 1 },
          { field: "pitch", label: "Pitch", as: "length", optional: true },
        ],
        shape({ values }: Answers): Shaped {
          const { times, pitch, ...one } = values;
          for (const field of ["x", "y", "length"])
            if (typeof one[field] !== "number") return { ok: false, field, reason: `Its ${field} is needed.` };
          if (typeof times === "number" && times > 1 && typeof pitch !== "number")
            return { ok: false, field: "pitch", reason: "How far apart they are is needed." };
          return {
            ok: true,
            payload: { thing, ...one, ...(typeof times === "number" && times > 1 ? { times, pitch } : {}) },
          };
        },
      },
    ];
  });
}
