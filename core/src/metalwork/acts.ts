import { FIXINGS, type Design, type FaceOverride, type Hole } from "../design/model";
import type { MetalworkRules } from "./rules";
import type { EntryPlan, FaceWork, Origin } from "./result";
import { seenText } from "./say";
import type { KnownAct } from "../faces";
import type { Answers, Shaped } from "../frame/act";

const AS_PART = "as the part says";

type Pattern = { thing: "device" | "rail" | "duct"; of: string };

/** How the screws of a device, a rail or a duct are made. */
export function fixingAct({ thing, of }: Pattern, design: Design): KnownAct {
  const list: readonly { tag: string; fixing?: string }[] =
    thing === "device" ? design.devices : thing === "rail" ? design.rails : design.ducts;
  const now = list.find((x) => x.tag === of)?.fixing ?? AS_PART;
  return {
    id: `fixing-${of}`,
    label: `Screws of ${of}`,
    title: `How the screws of ${of} are made`,
    about: `Through, tapped, for rivet nuts, or only marked for screws that drill themselves; not drilled when the supplier does it. Openings stay as they are.`,
    kind: "set fixing",
    payloads: [{ things: [{ thing, of }] }],
    asks: [{ field: "fixing", label: "Made", as: "choice", choices: [AS_PART, ...FIXINGS], now }],
    shape: ({ values }) => ({
      ok: true,
      payload: { things: [{ thing, of }], fixing: values.fixing === AS_PART ? null : values.fixing },
    }),
  };
}

const isPattern = (o: Origin): o is Origin & Pattern => o.thing !== "face";

export const fixingActs = (from: readonly Origin[], design: Design): KnownAct[] =>
  [...new Map(from.filter(isPattern).map((o) => [o.of, o])).values()].map((o) => fixingAct(o, design));

const TURNS = ["0", "90", "180", "270"];

/** Moves and turns a device that stands on a face, and its holes with it. */
export function bodyActs(tag: string, design: Design): KnownAct[] {
  const device = design.devices.find((d) => d.tag === tag);
  const { face, x, y } = device?.on ?? {};
  if (face === undefined || x === undefined || y === undefined) return [];
  return [
    {
      id: "place",
      label: `Move ${tag}`,
      title: "Move",
      about: `${tag} on ${face}: x and y are the lower left corner of its body, from that of the face. Its holes go with it.`,
      kind: "place",
      payloads: [{ device: tag }],
      asks: [
        { field: "x", label: "x", as: "length", now: x },
        { field: "y", label: "y", as: "length", now: y },
      ],
      shape: ({ values }) => ({
        ok: true,
        payload: { device: tag, on: { face, x: Number(values.x), y: Number(values.y) } },
      }),
    },
    {
      id: "turn",
      label: `Turn ${tag}`,
      title: "Turn",
      about: `${tag} is turned counter-clockwise about the middle of its body, and its holes with it.`,
      kind: "turn",
      payloads: [{ device: tag }],
      asks: [{ field: "turn", label: "Degrees", as: "choice", choices: TURNS, now: String(device?.turn ?? 0) }],
      shape: ({ values }) => ({ ok: true, payload: { device: tag, turn: Number(values.turn) } }),
    },
  ];
}

/** Fields of a hole that are asked for by its kind. */
const FIELDS: Record<Exclude<Hole["kind"], "polygon">, readonly [string, string][]> = {
  round: [["d", "Diameter"]],
  thread: [],
  countersunk: [
    ["d", "Diameter"],
    ["head", "Countersunk to"],
  ],
  slot: [
    ["w", "Width"],
    ["h", "Height"],
  ],
  rect: [
    ["w", "Width"],
    ["h", "Height"],
    ["r", "Corner radius"],
  ],
  knockout: [["d", "Diameter"]],
};
const THREADS = ["M3", "M4", "M5", "M6", "M8", "M10"];

type Kind = keyof typeof FIELDS;

function asksOf(kind: Kind, now: Partial<Record<string, unknown>>): KnownAct["asks"] {
  const length = (field: string, label: string): KnownAct["asks"][number] => ({
    field,
    label,
    as: "length",
    ...(typeof now[field] === "number" ? { now: now[field] } : {}),
    ...(field === "r" ? { optional: true } : {}),
  });
  return [
    length("x", kind === "rect" || kind === "slot" ? "x of its lower left corner" : "x of its middle"),
    length("y", kind === "rect" || kind === "slot" ? "y of its lower left corner" : "y of its middle"),
    ...FIELDS[kind].map(([field, label]) => length(field, label)),
    ...(kind === "thread"
      ? [
          {
            field: "thread",
            label: "Thread",
            as: "choice" as const,
            choices: THREADS,
            ...(typeof now.thread === "string" ? { now: now.thread } : {}),
          },
        ]
      : []),
  ];
}

/** A hole from what was answered, or the field that is missing. */
function holeOf(kind: Kind, { values }: Answers): Shaped & { hole?: object } {
  const hole: Record<string, unknown> = { kind };
  for (const { field, optional } of asksOf(kind, {})) {
    const value = values[field];
    if (value === undefined || value === null) {
      if (optional) continue;
      return { ok: false, field, reason: "This is needed." };
    }
    if (typeof value === "number" && field !== "x" && field !== "y" && (value < 0 || (value === 0 && field !== "r")))
      return { ok: false, field, reason: "This is more than 0." };
    hole[field] = value;
  }
  return { ok: true, payload: {}, hole };
}

const KIND_WORDS: Record<Kind, string> = {
  round: "round hole",
  thread: "threaded hole",
  countersunk: "countersunk hole",
  slot: "slot",
  rect: "opening",
  knockout: "knockout",
};

/** Own holes of a face are told as seen from outside, whichever side the machine sees. */
const OUTSIDE = "x and y from the lower left corner, as seen from outside (of a plate: from its front).";

export const addHoleActs = (face: string): KnownAct[] =>
  (Object.keys(FIELDS) as Kind[]).map((kind) => ({
    id: `add-${kind}`,
    label: `Add ${kind === "rect" ? "an" : "a"} ${KIND_WORDS[kind]}`,
    title: `Add ${kind === "rect" ? "an" : "a"} ${KIND_WORDS[kind]}`,
    about: `An own ${KIND_WORDS[kind]} of ${face}: ${OUTSIDE}`,
    kind: "add hole",
    payloads: [{ face }],
    asks: asksOf(kind, {}),
    shape(answers) {
      const made = holeOf(kind, answers);
      return made.ok ? { ok: true, payload: { face, hole: made.hole } } : made;
    },
  }));

/** Changes, or takes away, an own hole of a face. */
export function ownHoleActs(face: string, nth: number, own: FaceOverride | undefined): KnownAct[] {
  const hole = own?.holes?.[nth - 1];
  if (!hole) return [];
  const drop: KnownAct = {
    id: "drop-hole",
    label: "Delete",
    title: "Delete the hole",
    about: `Own hole ${nth} of ${face}.`,
    kind: "take hole away",
    payloads: [{ face, was: hole }],
    asks: [],
    asIs: true,
  };
  if (hole.kind === "polygon") return [drop];
  const { kind } = hole;
  return [
    {
      id: "change-hole",
      label: "Move or change it",
      title: `Change the ${KIND_WORDS[kind]}`,
      about: `Own hole ${nth} of ${face}: ${OUTSIDE}`,
      kind: "change hole",
      payloads: [{ face, was: hole }],
      asks: asksOf(kind, hole as unknown as Record<string, unknown>),
      shape(answers) {
        const made = holeOf(kind, answers);
        if (!made.ok) return made;
        const notch = kind === "round" && "notch" in hole && hole.notch ? { notch: hole.notch } : {};
        const angle = kind === "slot" && "angle" in hole && hole.angle !== undefined ? { angle: hole.angle } : {};
        return { ok: true, payload: { face, was: hole, hole: { ...made.hole, ...notch, ...angle } } };
      },
    },
    drop,
  ];
}

const BY_SHOP = "as the shop's rule says";

/** How the sheet lies, and which machine makes it. */
export function sheetAct(work: FaceWork, own: FaceOverride | undefined, rules: MetalworkRules): KnownAct {
  return {
    id: "sheet",
    label: "Side and machine",
    title: "How the sheet lies, and on which machine",
    about: `${work.face} is drilled as seen from ${seenText(work)} on ${work.machine ?? "no machine"} now. Programs, drawings and lists all say which side is up.`,
    kind: "set sheet",
    payloads: [{ face: work.face }],
    asks: [
      {
        field: "seen",
        label: "Seen from",
        as: "choice",
        choices: [BY_SHOP, "outside", "inside"],
        now: own?.seen ?? BY_SHOP,
      },
      {
        field: "machine",
        label: "Machine",
        as: "choice",
        choices: [BY_SHOP, ...rules.machines.map((m) => m.name)],
        now: own?.machine ?? BY_SHOP,
      },
    ],
    shape: ({ values, set }) => ({
      ok: true,
      payload: {
        face: work.face,
        ...(set.has("seen") ? { seen: values.seen === BY_SHOP ? null : values.seen } : {}),
        ...(set.has("machine") ? { machine: values.machine === BY_SHOP ? null : values.machine } : {}),
      },
    }),
  };
}

type Area = NonNullable<FaceOverride["keepOuts"]>[number];

/** Adds an area to a face, a keep-out or an entry plate; or takes one away. */
export function areaActs(face: string, own: FaceOverride | undefined): KnownAct[] {
  const kinds = [
    ["keepOuts", "keep-out", own?.keepOuts ?? []],
    ["entries", "entry plate", own?.entries ?? []],
  ] as const;
  return kinds.flatMap(([field, name, list]): KnownAct[] => [
    {
      id: `add-${field}`,
      label: `Add ${field === "keepOuts" ? "a" : "an"} ${name}`,
      title: `Add ${field === "keepOuts" ? "a" : "an"} ${name}`,
      about:
        field === "keepOuts"
          ? `Where nothing is drilled, as over a stiffener or a hinge: ${OUTSIDE}`
          : `Where glands go: ${OUTSIDE}`,
      kind: "set areas",
      payloads: [{ face }],
      asks: [
        { field: "x", label: "x of its lower left corner", as: "length" },
        { field: "y", label: "y of its lower left corner", as: "length" },
        { field: "w", label: "Width", as: "length" },
        { field: "h", label: "Height", as: "length" },
        { field: "text", label: "What is there", as: "text", optional: true },
      ],
      shape({ values }) {
        for (const key of ["x", "y", "w", "h"] as const)
          if (typeof values[key] !== "number" || ((key === "w" || key === "h") && Number(values[key]) <= 0))
            return {
              ok: false,
              field: key,
              reason: key === "x" || key === "y" ? "This is needed." : "This is more than 0.",
            };
        const area = {
          x: Number(values.x),
          y: Number(values.y),
          w: Number(values.w),
          h: Number(values.h),
          ...(typeof values.text === "string" && values.text !== "" ? { text: values.text } : {}),
        };
        return { ok: true, payload: { face, [field]: [{ was: null, is: area }] } };
      },
    },
    ...list.map((area: Area, i): KnownAct => ({
      id: `drop-${field}-${i}`,
      label: `Delete the ${name} ${area.text ?? i + 1}`,
      title: `Delete the ${name}`,
      about: `${area.w} × ${area.h} mm at ${area.x}, ${area.y} mm of ${face}.`,
      kind: "set areas",
      payloads: [{ face, [field]: [{ was: area, is: null }] }],
      asks: [],
      asIs: true,
    })),
  ]);
}

const ENDS = { square: [], "start at 45°": ["start"], "end at 45°": ["end"], "both at 45°": ["start", "end"] } as const;

export function mitreAct(thing: "rail" | "duct", of: string, design: Design): KnownAct {
  const bar = (thing === "rail" ? design.rails : design.ducts).find((b) => b.tag === of);
  const now = Object.entries(ENDS).find(
    ([, e]) => e.length === (bar?.mitre?.length ?? 0) && e.every((x) => bar?.mitre?.includes(x)),
  )?.[0];
  return {
    id: `mitre-${of}`,
    label: "Ends",
    title: `How ${of} is cut`,
    about: `Of a bar that runs to the right its start is left, of one that runs up it is below. A mitre takes the length at its long side.`,
    kind: "set mitre",
    payloads: [{ thing, of }],
    asks: [
      { field: "ends", label: "Cut", as: "choice", choices: Object.keys(ENDS), ...(now === undefined ? {} : { now }) },
    ],
    shape: ({ values }) => ({ ok: true, payload: { thing, of, ends: ENDS[values.ends as keyof typeof ENDS] } }),
  };
}

/** Lays the proposed glands: each gets the next free tag. */
export function glandsAct(plan: EntryPlan, design: Design): KnownAct | null {
  if (plan.proposed.length === 0) return null;
  const taken = new Set(design.devices.map((d) => d.tag));
  let n = 1;
  const glands = plan.proposed.map(({ part, cable, face, x, y }) => {
    while (taken.has(`-XE${n}`)) n++;
    const device = `-XE${n}`;
    taken.add(device);
    return { device, part, face, x, y, ...(cable === null ? {} : { cable }) };
  });
  return {
    id: "lay-glands",
    label: `Lay ${glands.length} ${glands.length === 1 ? "gland" : "glands"}`,
    title: "Lay the glands",
    about: `${glands.length} glands on ${[...new Set(plan.proposed.map((g) => g.face))].join(" and ")}, in ${plan.rows} ${plan.rows === 1 ? "row" : "rows"}; each cable comes through its own. Spare ones get a blind plug.`,
    kind: "lay glands",
    payloads: [{ glands }],
    asks: [],
    asIs: true,
  };
}
