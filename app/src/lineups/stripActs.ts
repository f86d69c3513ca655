import { membersOf, type Jumper, type Member, type StripPlan } from "@gray-bench/core/lineups/result";
import type { Act } from "../edits/act";

/** The members with one of them moved by some places. */
export function movedBy(members: readonly Member[], tag: string, by: number): string[] {
  const order = members.map((m) => m.tag);
  const at = order.indexOf(tag);
  order.splice(at, 1);
  order.splice(Math.max(0, Math.min(order.length, at + by)), 0, tag);
  return order;
}

/** What can be done with a member of a strip. */
export function memberActs(strip: StripPlan, member: Member): Act[] {
  const members = membersOf(strip);
  const conductors = member.levels.flatMap((l) => [...l.inside, ...l.outside].map((c) => c.conductor));
  const acts: Act[] = [
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
  return acts;
}

const from = (j: Jumper): string => `${j.members[0]} to ${j.members[j.members.length - 1]}`;

/** Takes a proposed jumper; the wires that it makes needless are taken out by an act of their own. */
export const takeJumper = (strip: string, j: Jumper): Act => ({
  id: `take-${j.row}-${j.members[0]}`,
  label: "Take it",
  title: "Take the jumper",
  about: `${from(j)} in row ${j.row}: ${j.part ? `comb ${j.part}, ${j.teeth} teeth` : "no comb of the library fits"}.`,
  kind: "set jumper",
  payloads: [{ strip, row: j.row, members: j.members, ...(j.part ? { part: j.part } : {}) }],
  asks: [],
});

/** Takes a jumper of the design away. */
export const dropJumper = (strip: string, j: Jumper): Act => ({
  id: `drop-${j.row}-${j.members[0]}`,
  label: "Take it away",
  title: "Take the jumper away",
  about: `The jumper from ${from(j)} in row ${j.row}. Wires are not touched.`,
  kind: "remove jumper",
  payloads: [{ strip, row: j.row, member: j.members[0] }],
  asks: [],
});

/** Takes out wires that a jumper has made needless. */
export const dropWires = (j: Jumper): Act => ({
  id: `wires-${j.row}-${j.members[0]}`,
  label: `Take ${j.needless.length === 1 ? "its needless wire" : `${j.needless.length} needless wires`} out`,
  title: "Take needless wires out",
  about: `The jumper from ${from(j)} joins what ${j.needless.length === 1 ? "wire" : "wires"} ${j.needless.join(", ")} ${j.needless.length === 1 ? "joins" : "join"}.`,
  kind: "remove wires",
  payloads: [{ wires: j.needless }],
  asks: [],
});

/** Joins another strip to the end of this one. */
export const joinAct = (strip: string, others: readonly string[]): Act => ({
  id: "join",
  label: "Join a strip to its end",
  title: "Join two strips",
  about: `The members of the other strip come behind those of ${strip}; it is then no more.`,
  kind: "join strips",
  payloads: [{ strip }],
  asks: [{ field: "with", label: "Strip", as: "choice", choices: others }],
});
