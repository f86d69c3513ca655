import { joined, WithResult } from "../jobs/JobPage";
import { useBench } from "../kit/useBench";
import { Shell } from "../shell/Shell";
import { ShopView } from "../shop/ShopView";
import { useShop } from "../queries/useShop";

export default function Shop() {
  return (
    <Shell title="The shop">
      <WithResult result={joined({ current: useShop(), bench: useBench() })} what="the shop">
        {({ current, bench }) => <ShopView current={current} bench={bench} />}
      </WithResult>
    </Shell>
  );
}
