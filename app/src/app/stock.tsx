import { useLocalSearchParams } from "expo-router";
import { StockView } from "../kits/StockView";
import { Shell } from "../shell/Shell";

export default function Stock() {
  const { part } = useLocalSearchParams() as { part?: string };
  return (
    <Shell title="Stock and needs">
      <StockView part={part} />
    </Shell>
  );
}
