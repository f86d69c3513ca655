import { Link, type Href } from "expo-router";
import { useRef } from "react";
import { ScrollView } from "react-native";
import { useCurrentInSight } from "./inSight";

export interface Tab {
  id: string;
  title: string;
  href: Href;
}

/** What is shown of one thing, one beside the other: real links, so that each has an address. */
export function Tabs({ label, tabs, now }: { label: string; tabs: readonly Tab[]; now: string }) {
  const scroller = useRef<ScrollView>(null);
  useCurrentInSight(scroller, now);
  return (
    <ScrollView
      ref={scroller}
      horizontal
      role="navigation"
      aria-label={label}
      className="max-h-12 grow-0 border-b border-line"
      contentContainerClassName="min-w-full"
    >
      {tabs.map(({ id, title, href }) => (
        <Link
          key={id}
          href={href}
          replace
          testID={`show-${id}`}
          aria-current={id === now ? "true" : undefined}
          className={`min-h-touch min-w-touch justify-center border-b-2 px-3 py-3 text-center font-medium text-body ${id === now ? "border-verdigris text-verdigris" : "border-transparent text-graphite"}`}
        >
          {title}
        </Link>
      ))}
    </ScrollView>
  );
}
