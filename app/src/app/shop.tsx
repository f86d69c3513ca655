import { useLocalSearchParams } from "expo-router";
import { joined, WithResult } from "../jobs/JobPage";
import { useBench } from "../kit/useBench";
import { Shell } from "../shell/Shell";
import { ShopView } from "../shop/ShopView";
import { useShop } from "../queries/useShop";

export default function Shop() {
  const { section, rule } = useLocalSearchParams<{ section?: string; rule?: string }>();
  return (
    <Shell title={section === undefined ? "The shop" : `${section}, the shop`}>
      <WithResult result={joined({ current: useShop(), bench: useBench() })} what="the shop">
        {({ current, bench }) => <ShopView current={current} bench={bench} section={section} rule={rule} />}
      </WithResult>
    </Shell>
  );
}
