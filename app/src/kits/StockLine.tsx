import type { StockNow } from "@gray-bench/contract/kits";
import { useEffect, useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { formatMoment, keepTags } from "../kit/format";
import { Body, Small } from "../kit/Text";
import { useTellStock } from "./useNeeds";

const MINUTE_MS = 60_000;

/** `3 min old`, `2 h old`, `5 days old` */
export function ageText(at: string, nowMs: number): string {
  const minutes = Math.max(0, Math.floor((nowMs - Date.parse(at)) / MINUTE_MS));
  if (minutes < 1) return "just now";
  if (minutes < 120) return `${minutes} min old`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${hours} h old` : `${Math.floor(hours / 24)} days old`;
}

const SAID: Record<StockNow["state"], string> = {
  none: "No stock service is connected: nothing is judged as missing.",
  here: "The stock service answers.",
  away: "The stock service is away",
  refuses: "The stock service refuses",
  unclear: "The stock service is not understood",
};

/** Whether the stock service is there, how old its levels are, what it does not know yet. */
export function StockLine({ stock }: { stock: StockNow }) {
  const [nowMs, setNowMs] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(Date.now()), MINUTE_MS / 4);
    return () => clearInterval(timer);
  }, []);
  const { state, at, why, waiting, waitingWhy, refused } = stock;
  const tell = useTellStock();
  const trouble = state !== "here" && state !== "none";
  return (
    <View role="status" testID="stock" className={`gap-1 border-l-4 pl-3 ${trouble ? "border-ochre" : "border-line"}`}>
      <Body className={trouble ? "font-medium text-ochre" : ""} testID="stock-state">
        {SAID[state]}
        {why ? `: ${why}.` : ""}
        {trouble ? " Kits go on without it." : ""}
      </Body>
      {state === "none" ? null : (
        <Small testID="stock-age">
          {at === null
            ? "No levels were ever heard of."
            : trouble
              ? `Levels are those of ${formatMoment(at)}, ${ageText(at, nowMs)}.`
              : `Levels of ${formatMoment(at)}.`}
        </Small>
      )}
      {waiting > 0 ? (
        <View className="flex-row flex-wrap items-center gap-3">
          <Small testID="stock-waiting">
            {`${waiting} ${waiting === 1 ? "pick waits" : "picks wait"} to be told to it; nothing is lost.`}
            {waitingWhy ? ` It said: ${waitingWhy}.` : ""}
          </Small>
          <Button
            label={tell.isPending ? "Telling …" : "Tell it now"}
            disabled={tell.isPending}
            onPress={() => tell.mutate()}
            testID="stock-tell"
          />
          {tell.error ? <Small className="text-brick">{tell.error.message}</Small> : null}
        </View>
      ) : null}
      {refused.slice(0, MOST).map((r, i) => (
        <Small key={i} className="text-brick" testID="stock-refused">
          {keepTags(`It refused ${r.line} of ${r.kit}: ${r.why}. Correct the level in the store.`)}
        </Small>
      ))}
      {refused.length > MOST ? <Small>and {refused.length - MOST} more that it refused</Small> : null}
    </View>
  );
}

const MOST = 3;
