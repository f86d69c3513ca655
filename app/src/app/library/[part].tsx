import { useLocalSearchParams } from "expo-router";
import { PartPage } from "../../library/part/PartPage";
import { Shell } from "../../shell/Shell";

export default function PartRoute() {
  const { part, side, uses, set, pin, hole, slot, air } = useLocalSearchParams<{
    part: string;
    side?: string;
    uses?: string;
    set?: string;
    pin?: string;
    hole?: string;
    slot?: string;
    air?: string;
  }>();
  return (
    <Shell title={`Part ${part}`}>
      <PartPage
        key={part}
        number={part}
        chosen={{ set, pin, hole, slot, air }}
        side={side !== undefined}
        uses={uses !== undefined}
      />
    </Shell>
  );
}
