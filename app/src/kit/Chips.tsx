import { Link, type Href } from "expo-router";
import { useRef } from "react";
import { ScrollView, View } from "react-native";
import { useCurrentInSight } from "./inSight";
import { Mono } from "./Text";

export interface Chip {
  name: string;
  href: Href;
  testID: string;
}

/** Links side by side to the things of a kind, the one that is shown marked and in sight; `wrap`: in lines. */
export function Chips({
  label,
  chips,
  shown,
  wrap = false,
  tight = false,
}: {
  label: string;
  chips: readonly Chip[];
  shown: string | undefined;
  wrap?: boolean;
  /** Closer, so that a few fit a phone. */
  tight?: boolean;
}) {
  const scroller = useRef<ScrollView>(null);
  useCurrentInSight(scroller, shown);
  const links = chips.map(({ name, href, testID }) => (
    <Link
      key={name}
      href={href}
      replace
      testID={testID}
      aria-current={name === shown ? "true" : undefined}
      className={`min-h-touch min-w-touch items-center justify-center rounded-edge border ${tight ? "px-2" : "px-3"} py-2.5 ${name === shown ? "border-verdigris bg-tray" : "border-line"}`}
    >
      <Mono>{name}</Mono>
    </Link>
  ));
  return wrap ? (
    <View role="navigation" aria-label={label} className="flex-row flex-wrap gap-2">
      {links}
    </View>
  ) : (
    <ScrollView
      ref={scroller}
      horizontal
      role="navigation"
      aria-label={label}
      className="max-h-15 grow-0 border-b border-line"
      contentContainerClassName={tight ? "gap-1 p-2" : "gap-2 p-2"}
    >
      {links}
    </ScrollView>
  );
}
