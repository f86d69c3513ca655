import type { Design } from "@gray-bench/core/design/model";
import type { LineupRules } from "@gray-bench/core/lineups/rules";
import { membersOf, type LineupsResult, type StripPlan } from "@gray-bench/core/lineups/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useCallback, useEffect, useState, type ReactNode } from "react";
import { ScrollView, View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Act } from "@gray-bench/core/frame/act";
import { EditSheet } from "../edits/EditSheet";
import { Told } from "../edits/Told";
import { useEdit, type Outcome } from "../queries/useEdits";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { Button } from "../kit/Button";
import { Chips } from "../kit/Chips";
import { choose } from "../kit/choice";
import { jobHref } from "../kit/links";
import { ManyBar, useMany } from "../kit/many";
import { useSettings } from "../kit/settings";
import { Empty, Failed } from "../kit/States";
import { Tabs } from "../kit/Tabs";
import { Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { Assembly } from "./Assembly";
import { Cables } from "./Cables";
import { Jumpers } from "./Jumpers";
import { MemberDetails } from "./MemberDetails";
import { MemberRows } from "./MemberRows";
import { manyActs, makeAct, movedAct } from "@gray-bench/core/lineups/acts";
import { StripDrawing } from "./StripDrawing";
import { StripSheet, sumText } from "./StripSheet";
import { StripTable } from "./StripTable";

export interface LineupsChoice {
  strip?: string;
  member?: string;
  show?: string;
  cable?: string;
}

interface Props {
  job: string;
  result: LineupsResult;
  design: Design;
  rules: LineupRules;
  /** For the metres that are saved; undefined while they are computed. */
  routes: RoutesResult | undefined;
  choice: LineupsChoice;
}

/** Strips in order of hanging on: what lies inside and outside, what is bridged, what is hung between. */
export function LineupsView({ job, result, design, rules, routes, choice }: Props) {
  const { strips } = result;
  const [made, setMade] = useState<Outcome | null>(null);
  const shown =
    strips.find((s) => (choice.strip ? s.tag === choice.strip : membersOf(s).some((m) => m.tag === choice.member))) ??
    (choice.strip === undefined ? strips[0] : undefined);
  if (strips.length === 0)
    return (
      <View className="gap-2 p-3 md:p-6">
        <Empty title="No strip" text="This design names no strips. They come with the design file, or are made here." />
        {design.rails.length > 0 ? (
          <Acts job={job} acts={[makeAct(design)]} label="Strips" about="strips" laid={setMade} testID="strip" />
        ) : null}
        <Told outcome={made} testID="strip-told" />
      </View>
    );
  return (
    <View className="min-h-0 flex-1">
      <Chips
        label="Strips"
        shown={shown?.tag}
        chips={strips.map((s) => ({
          name: s.tag,
          href: jobHref(job, "lineups", { strip: s.tag, ...(choice.show ? { show: choice.show } : {}) }),
          testID: `strip-${s.tag}`,
        }))}
      />
      {shown ? (
        <OneStrip
          key={shown.tag}
          job={job}
          strip={shown}
          result={result}
          design={design}
          rules={rules}
          routes={routes}
          choice={choice}
        />
      ) : (
        <Empty
          title={`${choice.strip} is not here`}
          text="It was joined to another strip, or it is not in this revision. Choose one above."
        />
      )}
    </View>
  );
}

const TABS = [
  ["members", "Members"],
  ["strip", "Strip"],
  ["jumpers", "Jumpers"],
  ["cables", "Cables"],
  ["assembly", "Assembly"],
] as const;
type Tab = (typeof TABS)[number][0];
const SHOWN_OF = "What is shown of the strip";

function OneStrip({ job, strip, result, design, rules, routes, choice }: Props & { strip: StripPlan }) {
  const wide = useWide();
  const settings = useSettings();
  const [told, setTold] = useState<Outcome | null>(null);
  const [act, setAct] = useState<Act | null>(null);
  const { many, toggle, letGo } = useMany();
  const [several, setSeveral] = useState(false);
  const lay = useEdit(job);
  const member = membersOf(strip).find((m) => m.tag === choice.member);
  const tab: Tab = TABS.find(([t]) => t === choice.show)?.[0] ?? "members";
  /** Laid at once; who has not said a name yet is asked for it. */
  const move = useCallback(
    (members: string[]): void => {
      const moved = movedAct(strip.tag, members);
      if (settings.name === "") return setAct(moved);
      lay.mutate([{ kind: moved.kind, payload: moved.payloads[0]! }], { onSuccess: setTold });
    },
    [lay, settings.name, strip.tag],
  );
  const press = useCallback(
    (tag: string): void => {
      if (several) toggle(tag);
      else choose({ member: tag === choice.member ? undefined : tag });
    },
    [several, toggle, choice.member],
  );
  useKeys({ Escape: () => (several || many ? leaveSeveral() : choose({ member: undefined })) });
  // Members that are not there any more are not chosen any more.
  useEffect(() => {
    if (many && [...many].some((t) => !membersOf(strip).some((m) => m.tag === t))) letGo();
  }, [many, strip, letGo]);
  const leaveSeveral = (): void => {
    letGo();
    setSeveral(false);
  };
  const tabs = (names: Partial<Record<Tab, string>>) =>
    TABS.map(([id, title]) => ({
      id,
      title: names[id] ?? title,
      href: jobHref(job, "lineups", {
        strip: strip.tag,
        show: id,
        ...(choice.member ? { member: choice.member } : {}),
      }),
    }));
  const status = (
    <View className="flex-row flex-wrap items-center gap-3 px-3 py-1" testID="strip-line">
      <Small className="min-w-0 flex-1">
        {strip.rail}
        {strip.at === null ? "" : " · laid"} · {sumText(strip, settings)}
      </Small>
      {lay.isPending ? <Small role="status">saving …</Small> : null}
      {lay.error ? <Failed error={lay.error} /> : null}
      <Told outcome={told} testID="strip-told" />
    </View>
  );
  const details = member ? (
    <MemberDetails job={job} strip={strip} member={member} design={design} laid={setTold} move={move} />
  ) : null;
  const panes: Record<Exclude<Tab, "members">, ReactNode> = {
    strip: (
      <ScrollView className="flex-1">
        <StripSheet
          job={job}
          strip={strip}
          others={result.strips.filter((s) => s !== strip).map((s) => s.tag)}
          design={design}
          rules={rules}
          laid={setTold}
        />
      </ScrollView>
    ),
    jumpers: (
      <ScrollView className="flex-1">
        <Jumpers job={job} strip={strip} routes={routes} laid={setTold} />
      </ScrollView>
    ),
    cables: (
      <ScrollView className="flex-1">
        <Cables job={job} strip={strip} cables={result.cables} chosen={choice.cable} />
      </ScrollView>
    ),
    assembly: <Assembly job={job} strip={strip} />,
  };
  const sheet = act ? <EditSheet job={job} act={act} close={() => setAct(null)} laid={setTold} /> : null;
  const rows = (
    <MemberRows
      strip={strip}
      spareWord={result.spareWord}
      chosen={choice.member}
      many={many}
      press={press}
      move={move}
    />
  );
  const manyBar = many ? (
    <ManyBar many={many} one="member" several="members" letGo={leaveSeveral}>
      <Acts
        job={job}
        acts={manyActs(strip, [...many])}
        label="Chosen members"
        about={[...many].join()}
        laid={(o) => {
          setTold(o);
          leaveSeveral();
        }}
        testID="many"
      />
    </ManyBar>
  ) : null;
  if (wide) {
    const right: Tab = tab === "members" && !member ? "strip" : tab;
    return (
      <View className="min-h-0 flex-1">
        {status}
        <StripDrawing
          strip={strip}
          chosen={choice.member}
          many={many ? [...many] : []}
          choose={(tag) => choose({ member: tag, ...(tag === undefined ? {} : { show: undefined }) })}
          toggle={toggle}
          move={move}
        />
        {manyBar}
        <View className="min-h-0 flex-1 flex-row border-t border-line">
          <View className="min-h-0 min-w-0 flex-1">
            <StripTable
              job={job}
              strip={strip}
              chosen={choice.member}
              choose={(tag) => choose({ member: tag, show: undefined })}
              laid={setTold}
            />
          </View>
          <View className="min-h-0 w-105 border-l border-line">
            <Tabs label={SHOWN_OF} now={right} tabs={tabs({ members: "Member" })} />
            {right === "members" ? <ScrollView className="flex-1">{details}</ScrollView> : panes[right]}
          </View>
        </View>
        {sheet}
      </View>
    );
  }
  return (
    <View className="min-h-0 flex-1">
      <Tabs label={SHOWN_OF} now={tab} tabs={tabs({})} />
      {status}
      {tab === "members" ? (
        <>
          <View className="flex-row items-center border-y border-line bg-tray px-1">
            <Small className="flex-1 text-right">inside</Small>
            <View className="w-23 items-center">
              <Button
                label="Several"
                pressed={several}
                onPress={() => (several ? leaveSeveral() : setSeveral(true))}
                testID="several"
              />
            </View>
            <Small className="flex-1 pl-1">outside</Small>
          </View>
          <WithSheet
            sheet={
              !many && !several && details ? (
                <BottomSheet
                  testID="member-sheet"
                  head={<Mono>{choice.member}</Mono>}
                  close={() => choose({ member: undefined })}
                >
                  {details}
                </BottomSheet>
              ) : null
            }
          >
            {rows}
          </WithSheet>
          {many ? (
            manyBar
          ) : several ? (
            <View className="border-t border-verdigris p-3">
              <Small>Tap members to choose them; then bridge, move or change them together.</Small>
            </View>
          ) : null}
        </>
      ) : (
        panes[tab]
      )}
      {sheet}
    </View>
  );
}
