import { ActivityIndicator, View } from "react-native";
import { ApiError } from "./api";
import { Button } from "./Button";
import { Body, Head, Mono, Small } from "./Text";
import { useTokens } from "./settings";

/** Nothing there: what it is, why, what to do. */
export function Empty({ title, text }: { title: string; text: string }) {
  return (
    <View testID="empty" className="items-start gap-1 p-4">
      <Head>{title}</Head>
      <Small>{text}</Small>
    </View>
  );
}

export function Loading({ text }: { text: string }) {
  const t = useTokens();
  return (
    <View testID="loading" role="status" className="flex-row items-center gap-3 p-4">
      <ActivityIndicator color={t.verdigris} aria-label={text} />
      <Body>{text}</Body>
    </View>
  );
}

/** Something failed: what, where, and what to do. */
export function Failed({ error, retry }: { error: unknown; retry?: () => void }) {
  const e = error instanceof ApiError ? error.body : { message: String(error), where: "", remedy: "Try again." };
  return (
    <View testID="failed" role="alert" className="gap-2 border-l-4 border-brick p-4">
      <Head>{e.message}</Head>
      {e.where ? <Mono>{e.where}</Mono> : null}
      <Body>{e.remedy}</Body>
      {retry ? (
        <View className="flex-row">
          <Button label="Try again" onPress={retry} testID="retry" />
        </View>
      ) : null}
    </View>
  );
}
