import type { ShopReply } from "@gray-bench/contract/shop";
import type { Shop } from "@gray-bench/core/shop/shop";
import { useMutation } from "@tanstack/react-query";
import { View } from "react-native";
import { call } from "../kit/api";
import { Button } from "../kit/Button";
import { formatMoment } from "../kit/format";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useVersions } from "../queries/useShop";

/** What the shop was: each version with what it changed. One of before can be put back, as a new version. */
export function Versions({ current, putBack }: { current: ShopReply; putBack(shop: Shop): void }) {
  const { data, error, isLoading, refetch } = useVersions();
  const read = useMutation({
    mutationFn: (number: number) => call<ShopReply>(`/shop/versions/${number}`),
    onSuccess: (version) => putBack(version.shop),
  });
  return (
    <Tray className="gap-1 p-3" testID="versions">
      <Head>Versions</Head>
      {isLoading ? <Loading text="Reading the versions" /> : null}
      {error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {read.error ? <Failed error={read.error} /> : null}
      <View role="list">
        {data?.map((v) => (
          <View
            key={v.number}
            role="listitem"
            className="gap-1 border-t border-line py-2"
            testID={`version-${v.number}`}
          >
            <Body className="font-medium">
              Version {v.number}
              {v.number === current.number ? ", counts now" : ""}
            </Body>
            <Small>
              {v.who}, {formatMoment(v.when)}
              {v.why ? `: ${v.why}` : ""}
            </Small>
            {v.changes.map((c) => (
              <Small key={c}>{c}</Small>
            ))}
            {v.hash === current.hash ? null : (
              <View className="flex-row">
                <Button
                  label="Put it back"
                  disabled={read.isPending}
                  onPress={() => read.mutate(v.number)}
                  testID={`put-back-${v.number}`}
                />
              </View>
            )}
          </View>
        ))}
      </View>
    </Tray>
  );
}
