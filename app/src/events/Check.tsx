import Tick from "lucide-react-native/icons/check";
import { View } from "react-native";
import { useTokens } from "../kit/settings";
import { rem } from "../kit/textScale";
import { Body, Mono, Small } from "../kit/Text";

/** A row that is ticked as a whole: large enough for a glove. */
export function Check({
  done,
  press,
  px,
  title,
  beside,
  more,
  right,
  testID,
}: {
  done: boolean;
  press(): void;
  /** Its height, px beside text of the usual size. */
  px: number;
  title: string;
  /** Beside the title. */
  beside?: string;
  more: string;
  right: string;
  testID: string;
}) {
  const t = useTokens();
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={done}
      data-testid={testID}
      onClick={press}
      className="w-full border-0 bg-transparent p-0 text-left font-text"
      style={{ height: rem(px), display: "block", cursor: "pointer" }}
    >
      <View className={`h-full flex-row items-center gap-3 border-b border-line px-3 ${done ? "bg-tray" : ""}`}>
        <View
          className={`h-8 w-8 items-center justify-center rounded-edge border-2 ${done ? "border-verdigris bg-verdigris" : "border-graphite bg-paper"}`}
        >
          {done ? <Tick size={22} color={t.onVerdigris} /> : null}
        </View>
        <View className="min-w-0 flex-1">
          <View className="flex-row gap-2">
            <Mono>{title}</Mono>
            {beside === undefined ? null : (
              <Body numberOfLines={1} className="min-w-0 shrink">
                {beside}
              </Body>
            )}
          </View>
          <Small numberOfLines={1}>{more}</Small>
        </View>
        <Mono>{right}</Mono>
      </View>
    </button>
  );
}
