import { freeName } from "../design/free-name";
import { combText } from "./comb-text";
import type { Design } from "../design/model";
import type { LineupRules } from "./rules";
import { renumbering, type RenumberStrip } from "./renumber";
import { membersOf, type Connection, type Jumper, type Member, type OrderKind, type StripPlan } from "./result";
import type { KnownAct } from "../faces";
import type { Act, Answers, Shaped } from "../frame/act";
import { conditionActs } from "../intake/condition-acts";

/** The members with some of them moved in front of a place, 0 to as many as there are; they keep their order. */
export function movedTo(order: readonly string[], moving: ReadonlySet<string>, place: number): string[] {
  const before = order.slice(0, place).filter((t) => !moving.has(t));
  const behind = order.slice(place).filter((t) => !moving.has(t));
  return [...before, ...order.filter((t) => moving.has(t)), ...behind];
}

/** The members with one of them moved by some places. */
export function movedBy(members: readonly Member[], tag: string, by: number): string[] {
  const order = members.map((m) => m.tag);
  const at = order.indexOf(tag);
  const to = Math.max(0, Math.min(order.length - 1, at + by));
  return movedTo(order, new Set([tag]), by > 0 ? to + 1 : to);
}

/** What lands on a member. */
export const conductorsOf = ({ levels }: Member): Connection[] => levels.flatMap((l) => [...l.inside, ...l.outside]);

/** Nothing is asked: what is to be done is known. */
const fixed = (id: string, label: string, title: string, about: string): Omit<Act, "kind" | "payloads"> => ({
  id,
  label,
  title,
  about,
  asks: [],
});

/** What can be done with a member of a strip. */
export function memberActs(strip: StripPlan, member: Member, design: Design): KnownAct[] {
  const members = membersOf(strip);
  const conductors = [...new Set(conductorsOf(member).map((c) => c.conductor))];
  const acts: KnownAct[] = [
    {
      id: "place-to",
      label: "Move to",
      title: "Move to another place",
      about: `${member.tag} stands at place ${member.position} of ${members.length} on ${strip.tag}.`,
      kind: "order strip",
      payloads: [{ strip: strip.tag }],
      asks: [{ field: "place", label: "Place, counted from the first", as: "count", now: member.position }],
      shape({ values }) {
        const place = Number(values.place);
        if (!Number.isInteger(place) || place < 1 || place > members.length)
          return { ok: false, field: "place", reason: `Places go from 1 to ${members.length}.` };
        return {
          ok: true,
          payload: { strip: strip.tag, members: movedBy(members, member.tag, place - member.position) },
        };
      },
    },
    {
      id: "print",
      label: "Marker",
      title: "What the marker shows",
      about: `The marker of ${member.tag}; its name stays. Left empty it shows its own name.`,
      kind: "print",
      payloads: [{ strip: strip.tag, member: member.tag }],
      asks: [{ field: "text", label: "Text", as: "text", now: member.print, optional: true }],
      shape: ({ values }) => ({
        ok: true,
        payload: { strip: strip.tag, member: member.tag, text: (values.text as string | undefined)?.trim() || null },
      }),
    },
  ];
  if (conductors.length > 0)
    acts.push({
      id: "side",
      label: "Inside or outside",
      title: "Inside or outside",
      about: `On which side of ${member.tag} a wire or core lies. Cores and wires to other enclosures lie outside by themselves.`,
      kind: "side of conductor",
      payloads: [{ strip: strip.tag }],
      asks: [
        {
          field: "conductor",
          label: "Wire or core",
          as: "choice",
          choices: conductors,
          ...(conductors.length === 1 ? { now: conductors[0]! } : {}),
        },
        { field: "side", label: "Lies", as: "choice", choices: ["inside", "outside", "as by itself"] },
      ],
      shape({ values }) {
        const conductor = (values.conductor as string | undefined) ?? conductors[0]!;
        if (values.side === undefined) return { ok: false, field: "side", reason: "Say on which side it lies." };
        const side = values.side === "as by itself" ? null : values.side;
        return { ok: true, payload: { strip: strip.tag, conductor, side } };
      },
    });
  if (conductors.length > 0) acts.push(swapAct(strip, [member]), landAct(strip, member));
  if (member.fuseA !== undefined)
    acts.push({
      id: "fuse",
      label: "Fuse",
      title: "The fuse that is fitted",
      about: `Rated current of the fuse in ${member.tag}, A. Left empty: none is fitted.`,
      kind: "fuse",
      payloads: [{ device: member.tag }],
      asks: [
        {
          field: "fuseA",
          label: "Rated current, A",
          as: "amount",
          optional: true,
          ...(member.fuseA === null ? {} : { now: member.fuseA }),
        },
      ],
      shape: ({ values }) => ({ ok: true, payload: { device: member.tag, fuseA: values.fuseA ?? null } }),
    });
  if (member.position < members.length)
    acts.push({
      id: "split",
      label: "Split behind",
      title: "Split the strip",
      about: `What stands behind ${member.tag} becomes a strip of its own.`,
      kind: "split strip",
      payloads: [{ strip: strip.tag, after: member.tag }],
      asks: [{ field: "to", label: "Tag of the new strip", as: "text" }],
    });
  acts.push(pieceAct(strip, member), likeAct(strip, member, design), takeOffAct(strip, [member.tag]));
  if (strip.groups.some((g) => g.includes(member.tag)))
    acts.push({
      ...fixed(
        "let-go",
        "Let its group go",
        "Let a group go",
        `${member.tag} is kept together with ${strip.groups
          .find((g) => g.includes(member.tag))!
          .filter((t) => t !== member.tag)
          .join(", ")}. They may then stand apart when another order is proposed.`,
      ),
      kind: "keep together",
      payloads: [{ strip: strip.tag, members: [member.tag] }],
    });
  if (member.position < members.length) {
    const split = strip.splitAfter.includes(member.tag);
    acts.push({
      ...fixed(
        "sheet",
        split ? "Join the drawing behind" : "New sheet behind",
        split ? "Join the drawing" : "Split the drawing",
        `Behind ${member.tag} the drawing of ${strip.tag} ${split ? "goes on on the same sheet again" : "goes on on another sheet"}. The strip itself stays whole.`,
      ),
      kind: "split drawing",
      payloads: [{ strip: strip.tag, after: member.tag, split: !split }],
    });
  }
  return acts;
}

/** Inside becomes outside, for all that lands on some members. */
function swapAct(strip: StripPlan, members: readonly Member[]): KnownAct {
  const sides = Object.fromEntries(
    members
      .flatMap(conductorsOf)
      .map((c) => [c.conductor, c.side === "inside" ? ("outside" as const) : ("inside" as const)]),
  );
  return {
    ...fixed(
      "swap",
      "Swap sides",
      "Swap inside and outside",
      `What lies inside on ${members.length === 1 ? members[0]!.tag : `${members.length} members`} lies outside then, and the other way round.`,
    ),
    kind: "swap sides",
    payloads: [{ strip: strip.tag, sides }],
  };
}

/** What a wire or a core is called in the edit that lands it elsewhere. */
const named = (c: Connection): object => (c.wire === null ? { cable: c.cable, core: c.core } : { wire: c.wire });

/** Another level, another clamp, another member of the strip. */
function landAct(strip: StripPlan, member: Member): KnownAct {
  const from = new Map(conductorsOf(member).map((c) => [`${c.conductor} at ${c.pin}`, c]));
  const to = new Map(
    membersOf(strip).flatMap((m) =>
      m.levels.flatMap((l) =>
        l.clamps.map((pin): [string, object] => [
          `${m.tag}:${pin}${m.levels.length > 1 ? `, level ${l.level}` : ""}`,
          { device: m.tag, pin },
        ]),
      ),
    ),
  );
  // Its own clamps first: another level is what is asked for most.
  const places = [...to.keys()].sort(
    (a, b) => Number(b.startsWith(`${member.tag}:`)) - Number(a.startsWith(`${member.tag}:`)),
  );
  return {
    id: "land",
    label: "Level or clamp",
    title: "Lead to another level or clamp",
    about: `Moves one end of a wire or core from ${member.tag} to another level, or to another member of ${strip.tag}.`,
    kind: "land",
    payloads: [{}],
    asks: [
      { field: "conductor", label: "Wire or core", as: "choice", choices: [...from.keys()] },
      { field: "to", label: "To", as: "choice", choices: places },
    ],
    shape({ values }): Shaped {
      const c = from.get(String(values.conductor));
      const place = to.get(String(values.to));
      if (!c) return { ok: false, field: "conductor", reason: "Choose what is moved." };
      if (!place) return { ok: false, field: "to", reason: "Choose where it goes." };
      return { ok: true, payload: { ...named(c), from: { device: member.tag, pin: c.pin }, to: place } };
    },
  };
}

const HUNG = { "is hung": true, "is left out": false, "as the rules say": null } as const;

/** An accessory behind a member, or before the first where none is named. */
export function pieceAct(strip: StripPlan, member: Member | null): KnownAct {
  const where = member ? `behind ${member.tag}` : "before the first member";
  return {
    id: "piece",
    label: member ? "End stop, plate, separator" : "Before the first",
    title: `What hangs ${where}`,
    about: `Overrules what the rules hang ${where} of ${strip.tag}.`,
    kind: "hang piece",
    payloads: [{}],
    asks: [
      { field: "piece", label: "Accessory", as: "choice", choices: ["end stop", "end plate", "separator"] },
      { field: "hung", label: "It", as: "choice", choices: Object.keys(HUNG) },
    ],
    shape({ values }): Shaped {
      if (values.piece === undefined) return { ok: false, field: "piece", reason: "Choose an accessory." };
      const hung = HUNG[String(values.hung) as keyof typeof HUNG];
      if (hung === undefined) return { ok: false, field: "hung", reason: "Choose whether it hangs." };
      return { ok: true, payload: { strip: strip.tag, piece: values.piece, behind: member?.tag ?? null, hung } };
    },
  };
}

/** The next tag behind one that no device has. */
export const nextTag = (tag: string, { devices }: Design): string =>
  freeName(tag, new Set(devices.map((d) => d.tag)), ".");

/** Another one of the same part behind a member. */
function likeAct(strip: StripPlan, member: Member, design: Design): KnownAct {
  const tag = nextTag(member.tag, design);
  return {
    id: "like",
    label: "One more like it",
    title: "Add one like it",
    about: `A member of part ${member.part ?? "?"} comes right behind ${member.tag}. Nothing lands on it yet.`,
    kind: "put on strip",
    payloads: [{ strip: strip.tag, behind: member.tag }],
    asks: [{ field: "tag", label: "Its tag", as: "text", now: tag }],
    asIs: true,
    shape: ({ values }) => ({
      ok: true,
      payload: {
        strip: strip.tag,
        behind: member.tag,
        members: [String(values.tag).trim()],
        ...(member.part === null ? {} : { part: member.part }),
      },
    }),
  };
}

const GONE = { "stays in the design": false, "leaves the design": true } as const;

function takeOffAct(strip: StripPlan, tags: readonly string[]): KnownAct {
  return {
    id: "off",
    label: "Take off the strip",
    title: "Take off the strip",
    about: `${tags.length === 1 ? tags[0] : `${tags.length} members`} no longer ${tags.length === 1 ? "stands" : "stand"} on ${strip.tag}. Only what has no wire can leave the design.`,
    kind: "take off strip",
    payloads: [{ strip: strip.tag, members: tags }],
    asks: [
      {
        field: "gone",
        label: tags.length === 1 ? "The device" : "The devices",
        as: "choice",
        choices: Object.keys(GONE),
      },
    ],
    shape({ values }): Shaped {
      const gone = GONE[String(values.gone) as keyof typeof GONE];
      return gone === undefined
        ? { ok: false, field: "gone", reason: "Choose what becomes of it." }
        : { ok: true, payload: { strip: strip.tag, members: tags, gone } };
    },
  };
}

// ---- several ---------------------------------------------------------------------------------------

/** What can be done with several members at once. */
export function manyActs(strip: StripPlan, tags: readonly string[]): KnownAct[] {
  const all = membersOf(strip);
  const chosen = all.filter((m) => tags.includes(m.tag));
  const [first] = chosen;
  if (!first) return [];
  const order = chosen.map((m) => m.tag);
  const inARow = chosen.every((m, i) => i === 0 || m.position === chosen[i - 1]!.position + 1);
  const acts: KnownAct[] = [];
  if (chosen.length > 1) {
    acts.push(bridgeAct(strip, chosen));
    if (inARow)
      acts.push({
        ...fixed(
          "together",
          "Keep together",
          "Keep together",
          `${order.join(", ")} stay side by side in this order whenever another order is proposed.`,
        ),
        kind: "keep together",
        payloads: [{ strip: strip.tag, members: order }],
      });
  }
  acts.push({
    id: "place-to",
    label: "Move to",
    title: "Move to another place",
    about: `${order.length === 1 ? order[0] : `${order.length} members, in their order,`} before the member at a place of ${strip.tag}; ${all.length + 1} is the end.`,
    kind: "order strip",
    payloads: [{ strip: strip.tag }],
    asks: [{ field: "place", label: "Before place", as: "count" }],
    shape({ values }): Shaped {
      const place = Number(values.place);
      if (!Number.isInteger(place) || place < 1 || place > all.length + 1)
        return { ok: false, field: "place", reason: `Places go from 1 to ${all.length + 1}.` };
      const members = movedTo(
        all.map((m) => m.tag),
        new Set(order),
        place - 1,
      );
      return { ok: true, payload: { strip: strip.tag, members } };
    },
  });
  if (chosen.some((m) => conductorsOf(m).length > 0)) acts.push(swapAct(strip, chosen));
  acts.push(copyAct(strip, order), takeOffAct(strip, order));
  return acts;
}

/** A jumper over chosen members, in the first row where there is room. */
export function bridgeAct(strip: StripPlan, chosen: readonly Member[]): KnownAct {
  const [lo, hi] = [chosen[0]!.position, chosen[chosen.length - 1]!.position];
  const places = new Map(membersOf(strip).map((m) => [m.tag, m.position]));
  const taken = strip.jumpers
    .filter((j) => places.get(j.members[0]!)! <= hi && places.get(j.members[j.members.length - 1]!)! >= lo)
    .map((j) => j.row);
  const free = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10].find((row) => !taken.includes(row)) ?? 10;
  const tags = chosen.map((m) => m.tag);
  return {
    id: "bridge",
    label: "Bridge",
    title: "Bridge them",
    about: `A jumper joins ${tags.join(", ")}. Its comb is taken from the library by width and number of teeth.`,
    kind: "set jumper",
    payloads: [{ strip: strip.tag, members: tags }],
    asks: [
      {
        field: "row",
        label: `Row; ${free} is free there`,
        as: "choice",
        choices: [String(free), ...[1, 2, 3, 4].map(String).filter((r) => r !== String(free))],
      },
    ],
    shape({ values }): Shaped {
      if (values.row === undefined) return { ok: false, field: "row", reason: "Choose the row of jumpers." };
      return { ok: true, payload: { strip: strip.tag, row: Number(values.row), members: tags } };
    },
  };
}

const COPIES: Record<string, string[]> = {
  part: ["part"],
  fuse: ["fuse"],
  texts: ["texts"],
  "part and fuse": ["part", "fuse"],
  "all of these": ["part", "fuse", "texts", "turn"],
};

function copyAct(strip: StripPlan, to: readonly string[]): KnownAct {
  return {
    id: "copy",
    label: "Make them like",
    title: "Copy from another member",
    about: `${to.length === 1 ? to[0] : `${to.length} members`} get what is chosen of another one of ${strip.tag}.`,
    kind: "copy to members",
    payloads: [{}],
    asks: [
      { field: "from", label: "Like", as: "choice", choices: membersOf(strip).map((m) => m.tag) },
      { field: "what", label: "What is copied", as: "choice", choices: Object.keys(COPIES) },
    ],
    shape({ values }): Shaped {
      if (values.from === undefined) return { ok: false, field: "from", reason: "Choose the one to copy from." };
      const what = COPIES[String(values.what)];
      if (!what) return { ok: false, field: "what", reason: "Choose what is copied." };
      const others = to.filter((t) => t !== values.from);
      return others.length === 0
        ? { ok: false, field: "from", reason: "It is the only one that is chosen." }
        : { ok: true, payload: { strip: strip.tag, from: values.from, to: others, what } };
    },
  };
}

// ---- the whole strip -------------------------------------------------------------------------------

/** Where the strip would begin so that its first member stays where it stands now; 0 where nobody knows. */
export function placeNow(strip: StripPlan, design: Design): number {
  let before = 0;
  for (const item of strip.items) {
    if (item.kind === "member") {
      const on = design.devices.find((d) => d.tag === item.tag)?.on;
      return on?.rail === strip.rail && on.x !== undefined ? Math.round((on.x - before) * 1000) / 1000 : 0;
    }
    before += item.widthMm ?? 0;
  }
  return 0;
}

/** What can be done with a strip as a whole. */
export function stripActs(strip: StripPlan, others: readonly string[], design: Design, rules: LineupRules): KnownAct[] {
  const rails = [...new Set(design.rails.map((r) => r.tag))];
  const at = strip.at ?? placeNow(strip, design);
  const acts: KnownAct[] = [
    {
      id: "lay",
      label: strip.at === null ? "Lay it on a rail" : "Lay it elsewhere",
      title: "Lay the strip on a rail",
      about: `All members of ${strip.tag} then stand where the strip says, side by side with their accessories; wires follow. Begins now at ${at} mm of ${strip.rail}.`,
      kind: "lay strip",
      payloads: [{ strip: strip.tag }],
      asks: [
        { field: "rail", label: "Rail", as: "choice", choices: rails, now: strip.rail },
        { field: "at", label: "From the start of the rail", as: "length", now: at },
      ],
      asIs: strip.at === null,
      shape: ({ values }): Shaped =>
        values.rail === undefined
          ? { ok: false, field: "rail", reason: "Choose the rail." }
          : { ok: true, payload: { strip: strip.tag, rail: values.rail, at: values.at ?? at } },
    },
    renumberAct(strip, design, rules),
    addAct(strip, design),
    pieceAct(strip, null),
  ];
  if (strip.at !== null)
    acts.push({
      ...fixed(
        "lift",
        "Take it off its rail",
        "Take the strip off its rail",
        `Members of ${strip.tag} then stand where each says itself; those that say nothing are loose.`,
      ),
      kind: "lift strip",
      payloads: [{ strip: strip.tag }],
    });
  if (others.length > 0) acts.push(joinAct(strip.tag, others));
  acts.push(...conditionActs(design.options, [{ thing: "strip", of: strip.tag }]), removeAct(strip.tag));
  return acts;
}

const STAY = "stay, where each says itself";
const GO = "go too, with the wires to them";

const removeAct = (strip: string): KnownAct => ({
  id: "remove",
  label: "Delete strip",
  title: "Delete strip",
  about: `${strip} is a strip no more: its jumpers, prints and accessories go.`,
  kind: "remove strip",
  payloads: [{ strip }],
  asIs: true,
  shown: true,
  asks: [{ field: "members", label: "Its members", as: "choice", choices: [STAY, GO], now: STAY }],
  shape: ({ values }): Shaped => ({ ok: true, payload: { strip, members: values.members === GO ? "go" : "stay" } }),
});

const BY = { "all in a row": "none", "part by part": "part", "group by group": "group" } as const;

/** Numbers a strip anew; what is renamed with it is told before. */
export function renumberAct(strip: StripPlan, design: Design, rules: LineupRules): KnownAct {
  const rule = ({ values }: Answers): RenumberStrip | null => {
    const by = BY[String(values.by) as keyof typeof BY];
    return by === undefined
      ? null
      : {
          strip: strip.tag,
          from: Number(values.from),
          step: Number(values.step),
          by,
          start: Number(values.start),
        };
  };
  return {
    id: "renumber",
    label: "Number anew",
    title: "Number the members anew",
    about: `Members of ${strip.tag} that end in a number get new ones in their order; wires, cores, jumpers and prints go with them.`,
    kind: "renumber strip",
    payloads: [{ strip: strip.tag }],
    asks: [
      { field: "by", label: "How", as: "choice", choices: Object.keys(BY) },
      { field: "from", label: "First number", as: "count", now: rules.numberFrom },
      { field: "step", label: "From one to the next", as: "count", now: rules.numberStep },
      { field: "start", label: "A group begins at a multiple of", as: "count", now: rules.groupStart },
    ],
    shape(answers): Shaped {
      const payload = rule(answers);
      return payload ? { ok: true, payload } : { ok: false, field: "by", reason: "Choose how." };
    },
    note(answers) {
      const payload = rule(answers);
      if (!payload || !(payload.step >= 1) || !(payload.start >= 1)) return null;
      const names = renumbering(design, payload).filter(([was, is]) => was !== is);
      if (names.length === 0) return "Nothing would get another number.";
      const renamed = new Set(names.map(([was]) => was));
      const lands = (refs: ({ device: string } | undefined)[]): boolean => refs.some((r) => r && renamed.has(r.device));
      const wires = design.wires.filter((w) => lands([w.from, w.to])).length;
      const cores = design.cables.reduce((sum, c) => sum + c.cores.filter((k) => lands([k.from, k.to])).length, 0);
      const shown = names.slice(0, 6).map(([was, is]) => `${was} becomes ${is}`);
      return `${shown.join(", ")}${names.length > 6 ? ` and ${names.length - 6} more` : ""}. ${wires} wires and ${cores} cores that land on them go with them.`;
    },
  };
}

/** Puts members on a strip: devices there are, or new ones of a part. */
function addAct(strip: StripPlan, design: Design): KnownAct {
  const members = membersOf(strip);
  const last = members[members.length - 1];
  const parts = design.parts.filter((p) => p.mounts?.some((m) => m.kind === "rail")).map((p) => p.number);
  const next = nextTag(last?.tag ?? `${strip.tag}.0`, design);
  return {
    id: "add",
    label: "Add members",
    title: "Add members",
    about: `Terminals, or relays, breakers and supplies between them. Tags of devices there are, or new ones of a part; several with commas between them.`,
    kind: "put on strip",
    payloads: [{ strip: strip.tag }],
    asks: [
      { field: "tags", label: "Tags", as: "text" },
      { field: "part", label: "Part of new ones", as: "choice", choices: parts, optional: true },
      { field: "behind", label: "Behind", as: "choice", choices: members.map((m) => m.tag), optional: true },
    ],
    shape({ values }): Shaped {
      const tags = String(values.tags ?? "")
        .split(",")
        .map((t) => t.trim())
        .filter((t) => t !== "");
      if (tags.length === 0) return { ok: false, field: "tags", reason: "Name one at least." };
      if (new Set(tags).size < tags.length) return { ok: false, field: "tags", reason: "Name each once." };
      return {
        ok: true,
        payload: {
          strip: strip.tag,
          members: tags,
          ...(values.behind ? { behind: values.behind } : {}),
          ...(values.part ? { part: values.part } : {}),
        },
      };
    },
    note: () => `The next free tag is ${next}.`,
  };
}

/** Takes an order that was proposed. */
export function orderAct(strip: StripPlan, kind: OrderKind): KnownAct {
  const { members, now, then } = strip.orders[kind];
  const better = (word: string, a: number, b: number): string => `${word} ${a}, then ${b}`;
  return {
    ...fixed(
      `order-${kind}`,
      "Take this order",
      "Put the strip in this order",
      `${better("Crossings of cores", now.crossings, then.crossings)}; ${better("pieces that join nets", now.pieces, then.pieces)}. Groups stay together${kind === "ascending" ? ", numbers ascend" : ""}.`,
    ),
    kind: "order strip",
    payloads: [{ strip: strip.tag, members }],
  };
}

/** Another order as it was dragged. */
export const movedAct = (strip: string, members: readonly string[]): KnownAct => ({
  ...fixed("moved", "Move", "Move on the strip", `Another order of ${strip}.`),
  kind: "order strip",
  payloads: [{ strip, members }],
});

/** A strip of devices that stand on none. */
export function makeAct(design: Design): KnownAct {
  const rails = [...new Set(design.rails.map((r) => r.tag))];
  return {
    id: "make",
    label: "New strip",
    title: "Make a new strip",
    about: "Of devices that stand on no strip yet: terminals, or relays, breakers and supplies only.",
    kind: "make strip",
    payloads: [{}],
    asks: [
      { field: "strip", label: "Its tag", as: "text" },
      { field: "rail", label: "Rail", as: "choice", choices: rails },
      { field: "tags", label: "Tags of its members, with commas between", as: "text" },
    ],
    shape({ values }): Shaped {
      const tags = String(values.tags ?? "")
        .split(",")
        .map((t) => t.trim())
        .filter((t) => t !== "");
      if (!values.rail) return { ok: false, field: "rail", reason: "Choose the rail." };
      if (tags.length === 0) return { ok: false, field: "tags", reason: "Name one at least." };
      return {
        ok: true,
        payload: { strip: String(values.strip).trim(), rail: values.rail, members: [...new Set(tags)] },
      };
    },
  };
}

const from = (j: Jumper): string => `${j.members[0]} to ${j.members[j.members.length - 1]}`;

/** Takes a proposed jumper; the wires that it makes needless are taken out by an act of their own. */
export const takeJumper = (strip: string, j: Jumper): KnownAct => ({
  id: `take-${j.row}-${j.members[0]}`,
  label: "Take it",
  title: "Take the jumper",
  about: `${from(j)} in row ${j.row}: ${combText(j)}.`,
  kind: "set jumper",
  payloads: [{ strip, row: j.row, members: j.members, ...(j.part ? { part: j.part } : {}) }],
  asks: [],
});

/** Takes a jumper of the design away. */
export const dropJumper = (strip: string, j: Jumper): KnownAct => ({
  id: `drop-${j.row}-${j.members[0]}`,
  label: "Delete",
  title: "Delete the jumper",
  about: `The jumper from ${from(j)} in row ${j.row}. Wires are not touched.`,
  kind: "remove jumper",
  payloads: [{ strip, row: j.row, member: j.members[0] }],
  asks: [],
});

/**
 * Takes out wires that a jumper has made needless.
 * @param metres what they are long together, in words; null where that is not known
 */
export const dropWires = (j: Jumper, metres: string | null = null): KnownAct => ({
  id: `wires-${j.row}-${j.members[0]}`,
  label: `Take ${j.needless.length === 1 ? "its needless wire" : `${j.needless.length} needless wires`} out${metres ? `, ${metres} saved` : ""}`,
  title: "Take needless wires out",
  about: `The jumper from ${from(j)} joins what ${j.needless.length === 1 ? "wire" : "wires"} ${j.needless.join(", ")} ${j.needless.length === 1 ? "joins" : "join"}.`,
  kind: "remove wires",
  payloads: [{ wires: j.needless }],
  asks: [],
});

/** Joins another strip to the end of this one. */
export const joinAct = (strip: string, others: readonly string[]): KnownAct => ({
  id: "join",
  label: "Join a strip to its end",
  title: "Join two strips",
  about: `The members of the other strip come behind those of ${strip}; it is then no more.`,
  kind: "join strips",
  payloads: [{ strip }],
  asks: [{ field: "with", label: "Strip", as: "choice", choices: others }],
});
