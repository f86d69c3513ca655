import { WithResult } from "../jobs/JobPage";
import { Shell } from "../shell/Shell";
import { ShopView } from "../shop/ShopView";
import { useShop } from "../shop/useShop";

export default function Shop() {
  return (
    <Shell title="The shop">
      <WithResult result={useShop()} what="the shop">
        {(current) => <ShopView current={current} />}
      </WithResult>
    </Shell>
  );
}
