import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { byText } from "../design/order";
import type { KnownAct } from "../faces";
import { renameAct } from "../intake/rename-acts";

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
    renameAct(thing, tag),
  ];
}
