import { kitStanding, KIT_STATES, type KitState } from "@gray-bench/core/kits/events";
import type { Kit } from "@gray-bench/core/kits/result";
import { storeOf } from "@gray-bench/core/kits/walk";
import { Link } from "expo-router";
import { useMemo } from "react";
import { ScrollView, View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { FileLinks } from "../kit/FileLinks";
import { jobHref } from "../kit/links";
import { Empty } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { pickHref, takenOf, takeText, type Props } from "./choice";
import { KitCard } from "./KitCard";
import { PickNotes } from "./PickNotes";
import { walkFor } from "./toPick";
import { useAmounts } from "./useAmounts";
import type { Picks } from "./usePicks";

const FILES = [
  ["kits.pdf", "Pick lists PDF"],
  ["bin-labels.pdf", "Bin labels PDF"],
  ["picks.csv", "Picks CSV"],
  ["kits.xlsx", "Kits XLSX"],
] as const;

/** Whether a kit is still to be fetched. */
const isOpen = (state: KitState): boolean => state === "planned" || state === "picking";

/** Every kit by how far it is: side by side when wide, one below the other on a phone. */
export function Board({ job, result, rules, choice, picks }: Props & { picks: Picks }) {
  const wide = useWide();
  const { kits } = result;
  const taken = takenOf(choice).filter((code) => kits.some((k) => k.code === code));
  const placed = kits.map((kit) => ({ kit, standing: kitStanding(kit, picks.log.get(kit.code)) }));
  if (kits.length === 0)
    return <Empty title="Nothing to pick" text="The bill of this job is empty, or all of it comes from open bins." />;
  const take = (code: string): void =>
    choose({ take: takeText(taken.includes(code) ? taken.filter((c) => c !== code) : [...taken, code]) }, true);
  const columns = KIT_STATES.map((state) => ({ state, cards: placed.filter((p) => p.standing.state === state) }));
  return (
    <View className="min-h-0 flex-1">
      <ScrollView className="flex-1" contentContainerClassName="gap-3 p-3">
        <View className={wide ? "flex-row gap-3" : "gap-4"}>
          {columns
            .filter((c) => wide || c.cards.length > 0)
            .map(({ state, cards }) => (
              <View key={state} className={wide ? "min-w-0 flex-1 gap-2" : "gap-2"} testID={`column-${state}`}>
                <Head>
                  {state} · {cards.length}
                </Head>
                {cards.map(({ kit, standing }) => (
                  <KitCard
                    key={kit.code}
                    job={job.code}
                    kit={kit}
                    standing={standing}
                    pickers={picks.pickers.filter((p) => p.kit === kit.code)}
                    taken={isOpen(state) ? taken.includes(kit.code) : null}
                    take={() => take(kit.code)}
                  />
                ))}
              </View>
            ))}
        </View>
        <View className="max-w-105">
          <PickNotes picks={picks} />
        </View>
        <FileLinks job={job.code} files={FILES} label="Files of kits" />
      </ScrollView>
      {taken.length > 0 ? (
        <TakeBar job={job.code} kits={kits.filter((k) => taken.includes(k.code))} result={result} rules={rules} />
      ) : null}
    </View>
  );
}

/** Several kits in one walk, and what that saves. */
function TakeBar({
  job,
  kits,
  result,
  rules,
}: { job: string; kits: readonly Kit[] } & Pick<Props, "result" | "rules">) {
  const { walk: far } = useAmounts();
  const { walk, saves } = useMemo(() => walkFor(kits, result, storeOf(rules), far), [kits, result, rules, far]);
  return (
    <View
      role="region"
      aria-label="Chosen kits"
      testID="take"
      className="flex-row flex-wrap items-center gap-3 border-t border-verdigris bg-paper p-3"
    >
      <View className="min-w-0 flex-1">
        <Body className="font-strong">{kits.length === 1 ? "1 kit" : `${kits.length} kits in one walk`}</Body>
        <Small testID="take-walk">
          {far(walk.metres)}, {saves}
        </Small>
      </View>
      <Link
        href={pickHref(
          job,
          kits.map((k) => k.code),
        )}
        testID="take-pick"
        className="min-h-glove rounded-edge bg-verdigris px-5 py-3 font-medium text-name text-onVerdigris"
      >
        Pick
      </Link>
      <Link
        href={jobHref(job, "kits", { show: "walk", take: takeText(kits.map((k) => k.code))! })}
        testID="take-plan"
        className="min-h-touch py-3 font-medium text-body text-harbour underline"
      >
        See the walk
      </Link>
      <Button label="Let go" onPress={() => choose({ take: undefined })} testID="take-done" />
    </View>
  );
}
