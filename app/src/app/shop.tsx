import { useLocalSearchParams } from "expo-router";
import { joined, WithResult } from "../jobs/JobPage";
import { Named, type NamedThing } from "../kit/Named";
import { useBench, type Bench } from "../kit/useBench";
import { Shell } from "../shell/Shell";
import { VERSIONS } from "../shop/Sections";
import { ShopView } from "../shop/ShopView";
import { useShop } from "../queries/useShop";

const namedIn = ({ RULES }: Bench, section: string | undefined, rule: string | undefined): NamedThing[] => [
  {
    param: "section",
    what: "section",
    name: section,
    there: section === VERSIONS || RULES.some((r) => r.stage === section),
  },
  { param: "rule", what: "rule", name: rule, there: RULES.some((r) => r.place === rule) },
];

export default function Shop() {
  const { section, rule } = useLocalSearchParams<{ section?: string; rule?: string }>();
  return (
    <Shell title={section === undefined ? "The shop" : `${section}, the shop`}>
      <WithResult result={joined({ current: useShop(), bench: useBench() })} what="the shop">
        {({ current, bench }) => (
          <Named things={namedIn(bench, section, rule)} remedy="Choose a section, or search for the rule.">
            <ShopView current={current} bench={bench} section={section} rule={rule} />
          </Named>
        )}
      </WithResult>
    </Shell>
  );
}
