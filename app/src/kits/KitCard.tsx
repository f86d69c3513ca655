import type { KitStanding } from "@gray-bench/core/kits/events";
import type { Kit } from "@gray-bench/core/kits/result";
import { weightText } from "@gray-bench/core/kits/say";
import Tick from "lucide-react-native/icons/check";
import { Link } from "expo-router";
import { View } from "react-native";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { useTokens } from "../kit/settings";
import { Body, Mono, Small } from "../kit/Text";
import { GLOVE_PX } from "../kit/tokens";
import { useAmounts } from "./useAmounts";
import type { Picker } from "./usePicks";

/** What a kit is called among those of its job. */
export const kitName = ({ enclosures, step, apart }: Pick<Kit, "enclosures" | "step" | "apart">): string =>
  [...enclosures, step, ...(apart ? [`(${apart})`] : [])].join(" ");

/** One kit on the board: what it is, how far it is, and a box to take it along on a walk. */
export function KitCard({
  job,
  kit,
  standing: { lines, done, short },
  pickers,
  taken,
  take,
}: {
  job: string;
  kit: Kit;
  standing: KitStanding;
  pickers: readonly Picker[];
  /** Null: it is not to be fetched any more. */
  taken: boolean | null;
  take(): void;
}) {
  const t = useTokens();
  const { walk: far } = useAmounts();
  return (
    <View className={`flex-row rounded-edge border bg-tray ${taken ? "border-verdigris" : "border-line"}`}>
      {taken === null ? null : (
        <button
          type="button"
          role="checkbox"
          aria-checked={taken}
          aria-label={`Take ${kitName(kit)} along`}
          data-testid={`take-${kit.code}`}
          onClick={take}
          style={{
            border: 0,
            background: "none",
            padding: 0,
            width: GLOVE_PX,
            minHeight: GLOVE_PX,
            cursor: "pointer",
          }}
        >
          <View
            className={`m-2.5 h-7 w-7 items-center justify-center rounded-edge border-2 ${taken ? "border-verdigris bg-verdigris" : "border-graphite bg-paper"}`}
          >
            {taken ? <Tick size={20} color={t.onVerdigris} /> : null}
          </View>
        </button>
      )}
      <Link
        href={jobHref(job, "kits", { kit: kit.code })}
        testID={`kit-${kit.code}`}
        className={`block min-h-glove min-w-0 flex-1 py-2 pr-2 ${taken === null ? "pl-3" : ""}`}
      >
        <View className="w-full gap-1">
          <Body className="font-medium">
            <Mono className="font-monoStrong text-body">{keepTags(kit.enclosures.join(" ") || "no enclosure")}</Mono>{" "}
            {kit.step}
            {kit.apart ? `, ${kit.apart}` : ""}
          </Body>
          <Small>
            {done} of {lines} {lines === 1 ? "line" : "lines"}
            {short > 0 ? `, ${short} short` : ""} · {far(kit.walk.metres)} ·{" "}
            {kit.weightKg > 0 && kit.unweighed > 0 ? `over ${weightText({ ...kit, unweighed: 0 })}` : weightText(kit)}
          </Small>
          {lines > 0 ? (
            <View className="h-1.5 w-full border border-line bg-paper" aria-hidden>
              <View className="h-full bg-verdigris" style={{ width: `${(100 * done) / lines}%` }} />
            </View>
          ) : null}
          {pickers.map((p) => (
            <Small key={p.device} className="text-harbour">
              {p.who} picks it now
            </Small>
          ))}
        </View>
      </Link>
    </View>
  );
}
