import { putBacksOf } from "@gray-bench/core/kits/events";
import { View } from "react-native";
import { jobHref } from "../kit/links";
import { Tabs } from "../kit/Tabs";
import { Bill } from "./Bill";
import { Board } from "./Board";
import type { Props } from "./choice";
import { Missing } from "./Missing";
import { Pick } from "./Pick";
import { PutBacks } from "./PutBacks";
import { Revisions } from "./Revisions";
import { Ticket } from "./Ticket";
import { usePicks } from "./usePicks";
import { Walks } from "./Walks";

const TABS = [
  ["board", "Kits"],
  ["bill", "Bill"],
  ["missing", "Missing"],
  ["walk", "Walk"],
  ["back", "Put back"],
  ["revisions", "Revisions"],
] as const;
type Tab = (typeof TABS)[number][0];

/** Kits as they are planned, picked and used up; the bill behind them; what the store lacks. */
export function KitsView(props: Props) {
  const { job, choice, result } = props;
  if (choice.show === "pick") return <Pick {...props} />;
  return <Overview {...props} key={job.code} result={result} />;
}

function Overview(props: Props) {
  const { job, result, choice } = props;
  const picks = usePicks(job.code);
  const backs = putBacksOf(result.kits, picks.log).length;
  const tab: Tab = TABS.find(([t]) => t === choice.show)?.[0] ?? "board";
  return (
    <View className="min-h-0 flex-1">
      <Tabs
        label="What is shown of the kits"
        now={tab}
        tabs={TABS.map(([id, title]) => ({
          id,
          title: id === "back" && backs > 0 ? `${title} (${backs})` : title,
          href: jobHref(job.code, "kits", { show: id }),
        }))}
      />
      {tab === "bill" ? (
        <Bill {...props} />
      ) : tab === "missing" ? (
        <Missing {...props} />
      ) : tab === "walk" ? (
        <Walks {...props} />
      ) : tab === "back" ? (
        <PutBacks {...props} picks={picks} />
      ) : tab === "revisions" ? (
        <Revisions {...props} />
      ) : choice.kit === undefined ? (
        <Board {...props} picks={picks} />
      ) : (
        <Ticket {...props} picks={picks} />
      )}
    </View>
  );
}
