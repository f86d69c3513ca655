import { explain } from "@gray-bench/core/kits/explain";
import { kitStanding } from "@gray-bench/core/kits/events";
import { lineKey, type Kit } from "@gray-bench/core/kits/result";
import { savedMetres, weightText } from "@gray-bench/core/kits/say";
import { Link } from "expo-router";
import { ScrollView, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { Body, Mono, Small, Title } from "../kit/Text";
import { TOUCH_PX } from "../kit/tokens";
import { WorkingTable } from "../working/WorkingTable";
import { pickHref, takeText, type Props } from "./choice";
import { kitName } from "./KitCard";
import { PickNotes } from "./PickNotes";
import { useAmounts } from "./useAmounts";
import type { Picks, Said } from "./usePicks";

/** One kit: its lines in the order of the walk, what of each is picked, and where it goes from here. */
export function Ticket({ job, result, choice, picks }: Props & { picks: Picks }) {
  const { walk: far } = useAmounts();
  const kit = result.kits.find((k) => k.code === choice.kit);
  if (!kit)
    return (
      <Empty
        title={`No kit ${choice.kit ?? ""}`}
        text="This revision has none of that code. What was picked into it stands under Put back."
      />
    );
  const log = picks.log.get(kit.code);
  const standing = kitStanding(kit, log);
  const carried = log?.events.filter((e) => e.what === "at the bench" || e.what === "used up").at(-1);
  const said = (what: Said["what"], more: Partial<Said> = {}): void =>
    picks.say([{ kit: kit.code, line: "", what, ...more }]);
  const working =
    choice.working === "walk" || choice.working === "weight"
      ? explain(result, { of: choice.working, kit: kit.code })
      : null;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-215 gap-3 p-3" testID="ticket">
      <View className="gap-1">
        <LinkLine href={jobHref(job.code, "kits")} testID="to-board" label="All kits" />
        <Title>{keepTags(kitName(kit))}</Title>
        <Mono>{keepTags(kit.code)}</Mono>
        <Body testID="ticket-state">
          {standing.state}: {standing.done} of {standing.lines} lines
          {standing.short > 0 ? `, ${standing.short} short` : ""}
        </Body>
      </View>
      <View className="flex-row flex-wrap gap-2">
        {standing.state === "planned" || standing.state === "picking" || standing.done < standing.lines ? (
          <Link
            href={pickHref(job.code, [kit.code])}
            testID="pick"
            className="min-h-13 rounded-edge bg-verdigris px-6 py-4 font-medium text-name text-onVerdigris"
          >
            {standing.done + standing.short > 0 ? "Go on picking" : "Pick"}
          </Link>
        ) : null}
        {log?.carried === null || log === undefined ? (
          <Button label="It is at the bench" onPress={() => said("at the bench")} testID="to-bench" />
        ) : null}
        {log?.carried === "at the bench" ? (
          <Button label="It is used up" onPress={() => said("used up")} testID="used-up" />
        ) : null}
        {carried ? (
          <Button
            label={`Undo: ${carried.what}`}
            onPress={() => said("undone", { of: carried.id })}
            testID="take-back"
          />
        ) : null}
      </View>
      <PickNotes picks={picks} />
      <View className="flex-row flex-wrap gap-x-4">
        <Figure
          label={`Walk ${far(kit.walk.metres)}, ${far(savedMetres(kit.walk))} saved`}
          of="walk"
          now={choice.working}
        />
        <Figure label={weightText(kit)} of="weight" now={choice.working} />
        <LinkLine
          href={jobHref(job.code, "kits", { show: "walk", take: takeText([kit.code])! })}
          testID="ticket-walk"
          label="On the plan"
        />
      </View>
      {working ? (
        <View className="border-l-4 border-verdigris pl-3">
          <WorkingTable working={working} job={job.code} />
        </View>
      ) : null}
      <Lines kit={kit} picks={picks} />
    </ScrollView>
  );
}

function Figure({ label, of, now }: { label: string; of: string; now: string | undefined }) {
  return (
    <button
      type="button"
      aria-expanded={now === of}
      data-testid={`working-${of}`}
      onClick={() => choose({ working: now === of ? undefined : of })}
      className="border-0 bg-transparent p-0 font-text"
      style={{ minHeight: TOUCH_PX, cursor: "pointer" }}
    >
      <Body className="underline decoration-dotted">{label}</Body>
    </button>
  );
}

function Lines({ kit, picks }: { kit: Kit; picks: Picks }) {
  const log = picks.log.get(kit.code);
  const { amount, issue: issueOf } = useAmounts();
  return (
    <View role="list" aria-label="Lines in the order of the walk">
      {kit.lines.map((line, i) => {
        const key = lineKey(line);
        const is = log?.lines.get(key);
        const left = line.quantity - (is?.picked ?? 0);
        const issue = issueOf(line);
        return (
          <View
            key={key}
            role="listitem"
            testID={`line-${i + 1}`}
            className={`flex-row items-center gap-3 border-b border-line py-2 ${is && left <= 0 ? "bg-tray" : ""}`}
          >
            <Small className="w-6 text-right">{i + 1}</Small>
            <Mono className="w-23 text-body">{line.place ?? "no place"}</Mono>
            <View className="min-w-0 flex-1">
              <Body numberOfLines={1}>{line.part ? `${line.part}  ${line.text}` : line.text}</Body>
              {issue ? <Small>{keepTags(issue)}</Small> : null}
              <Small numberOfLines={1}>{keepTags(line.tags.slice(0, MOST_TAGS).join(" "))}</Small>
              {is?.short ? (
                <Small className="font-medium text-brick">
                  {amount(is.short.quantity, line.unit)} short: {is.short.reason} ({is.short.who})
                </Small>
              ) : null}
              {line.fallback ? <Small className="text-ochre">rests on a fallback</Small> : null}
            </View>
            <View className="items-end">
              <Mono className="font-monoStrong text-name">{amount(line.quantity, line.unit)}</Mono>
              {is ? (
                <Small className={left < 0 ? "font-medium text-ochre" : ""}>
                  {amount(Math.max(0, is.picked), line.unit)} picked{left < 0 ? ", too many" : ""}
                  {is.who.length > 0 ? `, ${is.who.join(", ")}` : ""}
                </Small>
              ) : null}
            </View>
          </View>
        );
      })}
    </View>
  );
}

const MOST_TAGS = 24;
