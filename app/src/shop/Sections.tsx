import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import { Link } from "expo-router";
import { View } from "react-native";
import { chooses } from "../kit/choice";
import { shopHref } from "../kit/links";
import { Body, Small } from "../kit/Text";

export const VERSIONS = "versions";

export const sectionTitle = (section: string): string =>
  section === VERSIONS ? "Versions" : STAGE_TITLES[section as StageName];

export interface Section {
  id: string;
  rules: number;
  /** So many of them are not as the product ships them. */
  own: number;
  /** So many are changed and not yet in a version. */
  changed: number;
}

/** The parts of the shop, each with how many rules it has and how many of them are the shop's own. */
export function Sections({
  sections,
  now,
  whole,
  chosen,
}: {
  sections: readonly Section[];
  /** The one that is shown; undefined: the whole shop; null: none of them. */
  now: string | undefined | null;
  /** The way to the whole shop stands among them. */
  whole: boolean;
  /** Hears that one was chosen, the one that is shown included. */
  chosen(): void;
}) {
  return (
    <View role="navigation" aria-label="Sections of the shop" testID="sections">
      {whole ? (
        <Row
          id={undefined}
          title="The shop"
          now={now}
          text="what is your own, and its file"
          changed={0}
          chosen={chosen}
        />
      ) : null}
      {sections.map(({ id, rules, own, changed }) => (
        <Row
          key={id}
          id={id}
          title={sectionTitle(id)}
          now={now}
          text={
            id === VERSIONS
              ? "who changed what, and when"
              : `${rules === 1 ? "1 rule" : `${rules} rules`}${own > 0 ? ` · ${own} of your own` : ""}`
          }
          changed={changed}
          chosen={chosen}
        />
      ))}
    </View>
  );
}

function Row({
  id,
  title,
  now,
  text,
  changed,
  chosen,
}: {
  id: string | undefined;
  title: string;
  now: string | undefined | null;
  text: string;
  changed: number;
  chosen(): void;
}) {
  return (
    <Link
      href={shopHref(id)}
      onPress={(e) => {
        chooses({ section: id, rule: undefined })(e);
        chosen();
      }}
      testID={`section-${id ?? "all"}`}
      aria-current={id === now ? "page" : undefined}
      className={`border-b border-l-4 border-b-line ${id === now ? "border-l-verdigris bg-tray" : "border-l-transparent"}`}
    >
      <View className="min-h-14 w-full justify-center py-1 pl-3 pr-2">
        <Body className={id === now ? "font-strong" : "font-medium text-harbour"}>{title}</Body>
        <Small>
          {text}
          {changed > 0 ? <Small className="font-medium text-verdigris">{` · ${changed} changed now`}</Small> : null}
        </Small>
      </View>
    </Link>
  );
}
