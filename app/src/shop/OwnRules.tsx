import type { ShopVersion } from "@gray-bench/contract/shop";
import { ownText, ruleValue, type PlacedRule } from "@gray-bench/core/shop/shop-changes";
import type { Shop } from "@gray-bench/core/shop/shop";
import { Link } from "expo-router";
import { View } from "react-native";
import { chooses } from "../kit/choice";
import { formatMoment } from "../kit/format";
import { shopHref } from "../kit/links";
import { Body, Head, Small } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { sectionTitle } from "./Sections";

/** Of each rule that was ever changed the version that did it last. Newest versions come first. */
export function lastChanges(versions: readonly ShopVersion[]): ReadonlyMap<string, ShopVersion> {
  const last = new Map<string, ShopVersion>();
  for (const version of versions) for (const place of version.places) if (!last.has(place)) last.set(place, version);
  return last;
}

export const changedText = ({ number, who, when }: ShopVersion): string =>
  `changed in version ${number}, ${who}, ${formatMoment(when)}`;

/** What this shop has otherwise than the product ships it, rule by rule, each leading to where it stands. */
export function OwnRules({
  shop,
  rules,
  last,
}: {
  shop: Shop;
  rules: readonly (PlacedRule & { stage: string })[];
  last: ReadonlyMap<string, ShopVersion>;
}) {
  const own = rules.flatMap((r) => {
    const text = ownText(r.rule, ruleValue(shop, r.place));
    return text === null ? [] : [{ ...r, text }];
  });
  return (
    <Tray className="gap-1 p-3" testID="own-rules">
      <Head>
        {own.length === 0
          ? "All rules are as they ship"
          : own.length === 1
            ? "One rule of your own"
            : `${own.length} rules of your own`}
      </Head>
      <Small>
        {own.length === 0
          ? "Choose a section to see its rules, or search; a changed rule is listed here."
          : own.length === 1
            ? "It is not as the product ships it; all others are."
            : "They are not as the product ships them; all others are."}
      </Small>
      <View role="list">
        {own.map(({ place, stage, text }) => (
          <View key={place} role="listitem">
            <Link
              href={shopHref(stage, place)}
              onPress={chooses({ section: stage, rule: place })}
              testID={`own-${place}`}
              className="border-t border-line"
            >
              <View className="min-h-13 w-full justify-center py-2">
                <Body className="text-harbour underline">{text}</Body>
                <Small>
                  {sectionTitle(stage)}
                  {last.has(place) ? ` · ${changedText(last.get(place)!)}` : ""}
                </Small>
              </View>
            </Link>
          </View>
        ))}
      </View>
    </Tray>
  );
}
