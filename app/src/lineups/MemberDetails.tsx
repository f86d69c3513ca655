import type { Design } from "@gray-bench/core/design/model";
import { membersOf, type Connection, type Member, type StripPlan } from "@gray-bench/core/lineups/result";
import { View } from "react-native";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { Button, LinkLine } from "../kit/Button";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Body, Head, Small } from "../kit/Text";
import { WireSwatch } from "../kit/WireSign";
import { memberActs, movedBy } from "@gray-bench/core/lineups/acts";

/** One member: what lands on it level by level, and what can be done with it. */
export function MemberDetails({
  job,
  strip,
  member,
  design,
  laid,
  move,
}: {
  job: string;
  strip: StripPlan;
  member: Member;
  design: Design;
  laid(o: Outcome): void;
  move(members: string[]): void;
}) {
  const settings = useSettings();
  const members = membersOf(strip);
  return (
    <View className="gap-3 p-3" testID="member-details">
      <View className="gap-1">
        <Head>{keepTags(`${member.tag}, place ${member.position} of ${members.length}`)}</Head>
        <Small>
          {keepTags(
            [
              member.part ?? "no part",
              member.widthMm === null ? "width not known" : `${formatLength(member.widthMm, settings)} wide`,
              `marker shows ${member.print}`,
              ...(member.fuseA === undefined ? [] : [member.fuseA === null ? "no fuse" : `fuse of ${member.fuseA} A`]),
            ].join(" · "),
          )}
        </Small>
      </View>
      <View className="flex-row flex-wrap items-center gap-2">
        <Button
          label="Up"
          disabled={member.position === 1}
          onPress={() => move(movedBy(members, member.tag, -1))}
          testID="member-up"
        />
        <Button
          label="Down"
          disabled={member.position === members.length}
          onPress={() => move(movedBy(members, member.tag, 1))}
          testID="member-down"
        />
        <LinkLine href={thingHref(job, "device", member.tag)} label="In the panel" />
      </View>
      <OnPages job={job} kind="device" of={member.tag} />
      {member.levels.map((l) => (
        <View key={l.level} className="gap-1">
          {member.levels.length > 1 ? (
            <Small className="font-medium">
              Level {l.level}: {l.clamps.join(", ")} {l.net === null ? "" : `· ${l.net}`}
            </Small>
          ) : null}
          {[...l.inside, ...l.outside].map((c) => (
            <Lead key={`${c.conductor} ${c.pin}`} job={job} of={c} />
          ))}
          {l.inside.length + l.outside.length === 0 ? <Small>nothing lands here</Small> : null}
        </View>
      ))}
      <Acts job={job} acts={memberActs(strip, member, design)} label={member.tag} about={member.tag} laid={laid} />
    </View>
  );
}

function Lead({ job, of: c }: { job: string; of: Connection }) {
  const settings = useSettings();
  const size = c.sizeMm2 === null ? "" : ` ${formatSize(c.sizeMm2, settings)}`;
  const text = `${c.side}, ${c.pin}: ${c.conductor}${size} to ${c.far ?? "?"}${c.decided ? ", side said by hand" : ""}`;
  return (
    <View className="flex-row items-center gap-2">
      <WireSwatch colour={c.colour} />
      {c.wire === null ? (
        <Body className="min-w-0 shrink">{keepTags(text)}</Body>
      ) : (
        <LinkLine href={thingHref(job, "wire", c.wire)} label={keepTags(text)} />
      )}
    </View>
  );
}
