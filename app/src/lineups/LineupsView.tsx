import {
  membersOf,
  type Connection,
  type Jumper,
  type LineupsResult,
  type Member,
  type StripPlan,
} from "@gray-bench/core/lineups/result";
import { Link } from "expo-router";
import { useState } from "react";
import { Pressable, ScrollView, View } from "react-native";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import { EditSheet } from "../edits/EditSheet";
import type { Act } from "../edits/act";
import type { Outcome } from "../edits/useEdits";
import { choose } from "../kit/choice";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useWide } from "../kit/useWide";
import { WireSwatch } from "../kit/WireSign";
import { Button, LinkLine } from "../kit/Button";
import { dropJumper, dropWires, joinAct, memberActs, movedBy, takeJumper } from "./stripActs";
import { StripDrawing } from "./StripDrawing";

interface Props {
  job: string;
  result: LineupsResult;
  strip?: string;
  member?: string;
}

/** Strips in order of hanging on: what lies inside and outside, what is bridged, what is hung between. */
export function LineupsView({ job, result, strip, member }: Props) {
  const { strips } = result;
  const shown =
    strips.find((s) => s.tag === strip || s.items.some((i) => i.kind === "member" && i.tag === member)) ?? strips[0];
  if (!shown)
    return (
      <View className="p-3 md:p-6">
        <Empty title="No strip" text="This design names no strips. They come with the design file." />
      </View>
    );
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-[1120px] gap-3 p-3 md:p-6">
      <Title>Lineups</Title>
      <View role="navigation" aria-label="Strips" className="flex-row flex-wrap gap-2">
        {strips.map((s) => (
          <Link
            key={s.tag}
            href={jobHref(job, "lineups", { strip: s.tag })}
            replace
            testID={`strip-${s.tag}`}
            aria-current={s === shown ? "true" : undefined}
            className={`min-h-[44px] justify-center rounded-[3px] border px-3 py-[10px] ${s === shown ? "border-verdigris bg-tray" : "border-line"}`}
          >
            <Mono>{s.tag}</Mono>
          </Link>
        ))}
      </View>
      <OneStrip
        key={shown.tag}
        job={job}
        strip={shown}
        others={strips.filter((s) => s !== shown).map((s) => s.tag)}
        chosen={member}
      />
    </ScrollView>
  );
}

function OneStrip({
  job,
  strip,
  others,
  chosen,
}: {
  job: string;
  strip: StripPlan;
  others: string[];
  chosen: string | undefined;
}) {
  const wide = useWide();
  const settings = useSettings();
  const [told, setTold] = useState<Outcome | null>(null);
  const [act, setAct] = useState<Act | null>(null);
  const members = membersOf(strip);
  const left = strip.railMm !== null && strip.lengthMm !== null ? strip.railMm - strip.lengthMm : null;
  return (
    <>
      <Tray className="gap-1 p-3" testID="strip-sum">
        <Body>
          {members.length} members on rail {strip.rail},{" "}
          {strip.lengthMm === null ? "length not known" : `${formatLength(strip.lengthMm, settings)} with accessories`}
          {left === null
            ? ""
            : left >= 0
              ? `; the rail has ${formatLength(left, settings)} more`
              : `; ${formatLength(-left, settings)} longer than the rail`}
        </Body>
        {strip.spares.map((s) => (
          <Small key={String(s.sizeMaxMm2)}>
            {s.free} of {s.clamps} clamps free
            {s.sizeMaxMm2 === null ? "" : ` for up to ${formatSize(s.sizeMaxMm2, settings)}`}
          </Small>
        ))}
        <LinkLine href={jobHref(job, "panel", { strip: strip.tag })} label={`${strip.tag} in the panel`} />
        <Told outcome={told} testID="strip-told" />
      </Tray>
      {wide ? <StripDrawing strip={strip} chosen={chosen} choose={(tag) => choose({ member: tag })} /> : null}
      <View className="flex-row gap-2 px-2">
        <Small className="flex-1 text-right">inside</Small>
        <Small className="w-[104px] text-center md:w-[180px]">member</Small>
        <Small className="flex-1">outside</Small>
      </View>
      <View role="list" testID="members" className="border-t border-line">
        {strip.items.map((item, i) =>
          item.kind === "member" ? (
            <Row
              key={item.tag}
              job={job}
              strip={strip}
              member={item}
              on={item.tag === chosen}
              laid={setTold}
              ask={setAct}
            />
          ) : (
            <View
              key={`${item.kind} ${i}`}
              role="listitem"
              className="flex-row justify-center border-b border-line bg-tray py-[2px]"
            >
              <Small>
                {item.kind} {item.part ?? ""} · {item.why}
              </Small>
            </View>
          ),
        )}
      </View>
      <Jumpers job={job} strip={strip} laid={setTold} ask={setAct} />
      {others.length > 0 ? (
        <Acts
          job={job}
          acts={[joinAct(strip.tag, others)]}
          label={`Strip ${strip.tag}`}
          about={strip.tag}
          laid={setTold}
        />
      ) : null}
      {act ? <EditSheet job={job} act={act} close={() => setAct(null)} laid={setTold} /> : null}
    </>
  );
}

const SIGN = {
  "too many": "more than the clamp takes",
  "one of two": "which leads out?",
  "left open": "nothing leads on",
};

interface JumperPart {
  joined: boolean;
  first: boolean;
  last: boolean;
}

/** What lies at a member in each row of jumpers, joined or passed over; null where nothing does. */
function rowsAt(strip: StripPlan, member: Member): (JumperPart | null)[] {
  const rows = Math.max(0, ...strip.jumpers.map((j) => j.row));
  return Array.from({ length: rows }, (_, n) => {
    const j = strip.jumpers.find((x) => x.row === n + 1 && [...x.members, ...x.over].includes(member.tag));
    if (!j) return null;
    const { members } = j;
    return {
      joined: members.includes(member.tag),
      first: members[0] === member.tag,
      last: members[members.length - 1] === member.tag,
    };
  });
}

/** One member: inside to the left, outside to the right, its jumpers as a line at its side. */
function Row({
  job,
  strip,
  member,
  on,
  laid,
  ask,
}: {
  job: string;
  strip: StripPlan;
  member: Member;
  on: boolean;
  laid: (o: Outcome) => void;
  ask: (act: Act) => void;
}) {
  const members = membersOf(strip);
  const move = (by: number): Act => ({
    id: "move",
    label: by < 0 ? "Up" : "Down",
    title: by < 0 ? "One place up" : "One place down",
    about: `${member.tag} changes places with its neighbour on ${strip.tag}.`,
    kind: "order strip",
    payloads: [{ strip: strip.tag, members: movedBy(members, member.tag, by) }],
    asks: [],
  });
  const undecided = member.levels.flatMap((l) => l.undecided ?? []);
  return (
    <View role="listitem" className={`border-b border-line ${on ? "bg-tray" : ""}`}>
      <Pressable
        onPress={() => choose({ member: on ? undefined : member.tag })}
        aria-label={`${member.tag}, place ${member.position}`}
        aria-expanded={on}
        role="button"
        testID={`member-${member.tag}`}
        className="min-h-[44px] w-full flex-row items-stretch gap-2 px-2 py-1"
      >
        <Side levels={member.levels.map((l) => l.inside)} inside />
        <View className="w-[104px] flex-row md:w-[180px]">
          <View className="flex-1 items-center justify-center border-x border-line px-1">
            <Mono numberOfLines={1}>{member.print}</Mono>
            <Small numberOfLines={1}>
              {member.part ?? "no part"}
              {member.fuseA === undefined ? "" : ` · ${member.fuseA === null ? "no fuse" : `${member.fuseA} A`}`}
            </Small>
            {undecided.length > 0 ? <Small className="font-medium text-ochre">? {SIGN[undecided[0]!]}</Small> : null}
          </View>
          {rowsAt(strip, member).map((r, n) => (
            <View
              key={n}
              aria-hidden
              className="w-[10px] items-center"
              {...(r ? { testID: `jumper-${member.tag}-${n + 1}` } : {})}
            >
              {r ? (
                <>
                  <View className={`w-[3px] flex-1 ${r.first ? "bg-transparent" : "bg-graphite"}`} />
                  <View
                    className={`h-[10px] w-[10px] rounded-full border-2 border-graphite ${r.joined ? "bg-graphite" : "bg-paper"}`}
                  />
                  <View className={`w-[3px] flex-1 ${r.last ? "bg-transparent" : "bg-graphite"}`} />
                </>
              ) : null}
            </View>
          ))}
        </View>
        <Side levels={member.levels.map((l) => l.outside)} />
      </Pressable>
      {on ? (
        <View className="gap-2 px-2 pb-2" testID="member-details">
          <View className="flex-row flex-wrap items-center gap-2">
            <LinkLine href={thingHref(job, "device", member.tag)} label={`${member.tag} in the panel`} />
            <Button label="Up" disabled={member.position === 1} onPress={() => ask(move(-1))} testID="member-up" />
            <Button
              label="Down"
              disabled={member.position === members.length}
              onPress={() => ask(move(1))}
              testID="member-down"
            />
          </View>
          <Acts job={job} acts={memberActs(strip, member)} label={member.tag} about={member.tag} laid={laid} />
        </View>
      ) : null}
    </View>
  );
}

/** What lies on one side, level below level, beside the terminal. */
function Side({ levels, inside = false }: { levels: readonly (readonly Connection[])[]; inside?: boolean }) {
  return (
    <View className="min-w-0 flex-1 justify-center">
      {levels.map((list, i) => (
        <View
          key={i}
          className={`min-h-[20px] justify-center ${inside ? "items-end" : "items-start"} ${i > 0 ? "border-t border-dotted border-line" : ""}`}
        >
          {list.map((c) => (
            <View
              key={`${c.conductor} ${c.pin}`}
              className={`max-w-full items-center gap-1 ${inside ? "flex-row-reverse" : "flex-row"}`}
            >
              <WireSwatch colour={c.colour} />
              <Small numberOfLines={1} className="min-w-0 shrink text-graphite">
                {keepTags(c.cable === null ? `${c.wire} ${c.far ?? "?"}` : `${c.cable}.${c.core} ${c.far ?? "?"}`)}
              </Small>
            </View>
          ))}
        </View>
      ))}
    </View>
  );
}

/** Jumpers that are there and those that are proposed, each with what can be done. */
function Jumpers({
  job,
  strip,
  laid,
  ask,
}: {
  job: string;
  strip: StripPlan;
  laid: (o: Outcome) => void;
  ask: (act: Act) => void;
}) {
  if (strip.jumpers.length + strip.proposed.length === 0) return null;
  const line = (j: Jumper): string =>
    `row ${j.row}: ${j.members[0]} to ${j.members[j.members.length - 1]}, ${j.members.length} joined${j.over.length > 0 ? `, over ${j.over.join(", ")}` : ""}, ${j.net ?? "no net"}, ${j.part ? `${j.part} cut to ${j.teeth} teeth` : "no comb fits"}`;
  return (
    <Tray className="gap-2 p-3" testID="jumpers">
      <Head>Jumpers</Head>
      {strip.jumpers.map((j) => (
        <View key={`${j.row} ${j.members[0]}`} className="gap-1">
          <Body>{keepTags(line(j))}</Body>
          <View className="flex-row flex-wrap gap-2">
            <Button
              label="Take it away"
              onPress={() => ask(dropJumper(strip.tag, j))}
              testID={`drop-${j.row}-${j.members[0]}`}
            />
            {j.needless.length > 0 ? (
              <Button
                label={dropWires(j).label}
                onPress={() => ask(dropWires(j))}
                testID={`needless-${j.row}-${j.members[0]}`}
              />
            ) : null}
          </View>
        </View>
      ))}
      {strip.proposed.length > 0 ? <Small>Proposed: neighbours of one net that nothing joins yet</Small> : null}
      {strip.proposed.map((j) => (
        <View key={`${j.row} ${j.members[0]}`} className="gap-1">
          <Body>
            {keepTags(line(j))}
            {j.needless.length > 0 ? `; makes ${j.needless.length} wires needless` : ""}
          </Body>
          <View className="flex-row">
            <Acts
              job={job}
              acts={[takeJumper(strip.tag, j)]}
              label={line(j)}
              about={line(j)}
              laid={laid}
              testID="jumper"
            />
          </View>
        </View>
      ))}
    </Tray>
  );
}
